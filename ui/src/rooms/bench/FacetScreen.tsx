import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { AsCut, BenchScript } from '../../api/client';
import type { Ear } from '../../ear/ear';
import { MenuButton, type Entry } from '../../parts/MenuButton';
import { vec } from '../../parts/stone/geometry';
import { Profile } from '../../parts/stone/Profile';
import type { Touch } from '../../parts/stone/StoneFaces';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { isUneven } from '../../parts/stone/ThinnestMark';
import { faces } from '../../theme/tokens';
import { angle, plain, thousandths } from '../../words/numbers';
import type { Foretold } from '../../log/heights';
import { wheelWords } from '../../words/wheel';
import { w } from '../../words/words';
import { InstrumentsAway, LiveAngle, LiveHeight, LiveIndex } from './dials/LiveDial';
import type { AtStop } from './dials/useDials';
import { EarMeter } from './ear/EarMeter';
import { useInstruments } from '../../parts/instruments/useReadings';
import { LapCares } from './LapCares';
import type { Reread } from './reread';
import { Ribbon } from './Ribbon';
import type { BenchState } from '../../log/standing';
import { cheatOf, passName } from '../../parts/work/visitWords';
import { lastTier, moves, stoodAt, type Habit } from './work';
import { upOf, upName } from '../../parts/stone/setups';

interface Props {
  script: BenchScript;
  state: BenchState;
  /** Place of the visit to cut: the next one, or one that was skipped. */
  at: number;
  /** How many facets Done ticks. */
  count: number;
  habit: Habit;
  reread: Reread;
  /** What is said beside the facet: its predicted height, what is left of the girdle, what to mind. */
  told: readonly string[];
  /** The stone as it was cut, where it is otherwise than the script's pictures. */
  asCut: AsCut | undefined;
  /** The lap that does the work of this pass now, where it was changed. */
  lap: string;
  /** What the height dial should read, and what the dials showed at their stops. */
  height: Foretold | undefined;
  atStop: AtStop;
  ear: Ear;
  /** What is rarely wanted. */
  more: readonly Entry[];
  done: () => void;
  back: () => void;
  backTier: () => void;
  skip: () => void;
  happened: () => void;
}

/** A screen that is low, or zoomed in: what is said stands side by side. */
const short = '@media (max-height: 600px)';

/** The facet to cut now, readable from a metre. */
export function FacetScreen(props: Props) {
  const { script, state, at } = props;
  const visit = script.visits[at]!;
  const facet = script.facets[visit.facet]!;
  const before = stoodAt(script, state, at);
  const last = before && script.facets[before.facet];
  // What is read by itself need not be asked for.
  const dialRead = useInstruments().some(
    (i) => i.here && i.now.some((r) => r.quantity === 'height'),
  );
  const changes = at === state.at ? moves(script, state, at) : [w.bench.thisOne];
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' }}>
      <Pictures script={script} at={at} asCut={props.asCut} />
      <Box
        sx={{
          display: 'flex',
          flexDirection: 'column',
          minHeight: 0,
          borderLeft: 1,
          borderColor: 'divider',
          px: 4,
          pb: 3,
        }}
      >
        <Typography variant="h2" component="p" sx={{ pt: 2, fontSize: '1.375rem' }}>
          {facet.tier} · {props.lap || passName(script, visit.pass)}
        </Typography>
        <Ribbon script={script} state={state} at={at} />
        <LapCares script={script} at={at} reread={props.reread} />
        <Box
          sx={{
            flexGrow: 1,
            minHeight: 0,
            overflow: 'auto',
            display: 'flex',
            flexDirection: 'column',
            justifyContent: 'space-evenly',
          }}
        >
          <Box sx={{ display: 'contents', [short]: { display: 'flex', gap: 6 } }}>
            <Digits
              label={w.bench.index}
              changed={last?.dial.tooth !== facet.dial.tooth}
              aside={cheatOf(facet.dial, script.cheater)}
              live={<LiveIndex facet={facet} teeth={script.gear} />}
            >
              {String(facet.dial.tooth)}
            </Digits>
            {facet.hole ? (
              <Digits
                label={w.bench.hole}
                changed={last?.hole?.no !== facet.hole.no || last.hole.peg !== facet.hole.peg}
                aside={[
                  w.bench.peg(plain(facet.hole.peg), angle(facet.hole.angle)),
                  facet.below !== facet.above && w.bench.forAngle(angle(facet.angle)),
                ]
                  .filter(Boolean)
                  .join(' · ')}
              >
                {String(facet.hole.no)}
              </Digits>
            ) : (
              <Digits
                label={w.bench.angle}
                changed={last?.reading !== facet.reading}
                aside={[
                  facet.adapter
                    ? w.bench.adapter
                    : angle(facet.reading) !== angle(facet.angle)
                      ? w.bench.reading(angle(facet.angle))
                      : '',
                  facet.below !== facet.above
                    ? w.bench.between(angle(facet.below), angle(facet.above))
                    : '',
                ]
                  .filter(Boolean)
                  .join(' · ')}
                live={<LiveAngle facet={facet} />}
              >
                {`${angle(facet.reading)}°`}
              </Digits>
            )}
          </Box>
          <Typography sx={{ fontSize: 32, lineHeight: 1.2, [short]: { fontSize: 20 } }} data-stop>
            {visit.stop}
          </Typography>
          <Typography sx={{ fontSize: '1.125rem', color: 'secondary.main', fontWeight: 600 }}>
            {changes.join(' · ')}
          </Typography>
          <LiveHeight told={props.height} atStop={props.atStop} />
          <InstrumentsAway />
          <EarMeter ear={props.ear} />
          {facet.division && (
            <Typography color="text.secondary">
              {w.bench.division(
                facet.division.rising,
                plain(facet.division.deeper),
                facet.division.girdle > 0 ? thousandths(facet.division.girdle) : '',
              )}
            </Typography>
          )}
          {props.told
            .filter((text) => !(dialRead && text === wheelWords.readHere))
            .map((text) => (
              <Typography key={text} sx={{ fontSize: '1.25rem', fontWeight: 600 }} data-told>
                {text}
              </Typography>
            ))}
          {facet.note && <Typography color="text.secondary">{facet.note}</Typography>}
        </Box>
        <Controls {...props} />
      </Box>
    </Box>
  );
}

/** A figure to dial; ember where it differs from the last facet's. */
function Digits({
  label,
  changed,
  aside,
  live,
  children,
}: {
  label: string;
  changed: boolean;
  aside: string;
  /** What an instrument reads of it. */
  live?: ReactNode;
  children: string;
}) {
  return (
    <Box>
      <Typography color="text.secondary" component="div" sx={{ lineHeight: 1.2 }}>
        {label}{' '}
        <Box component="span" sx={{ color: 'secondary.main', fontWeight: 600, ml: 2 }}>
          {aside}
        </Box>{' '}
        {live}
      </Typography>
      <Box
        data-digits={label}
        sx={{
          fontFamily: faces.figures,
          fontWeight: 600,
          // 148 px and more from 1024 × 768 on, where a digit is then over 96 px high.
          fontSize: 'clamp(56px, min(14.5vw, 19.4vh), 220px)',
          [short]: { fontSize: 'min(10vw, 19.4vh)' },
          lineHeight: 0.82,
          letterSpacing: '-0.03em',
          color: changed ? 'secondary.main' : 'text.primary',
          whiteSpace: 'nowrap',
        }}
      >
        {children.split(/([.,°])/).map((part, i) => (
          <Box key={i} component="span" sx={marks[part]}>
            {part}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Signs between digits take less room than a digit, so that these can be the larger. */
const narrow = { mx: '-0.16em' };
const marks: Record<string, object> = {
  '.': narrow,
  ',': narrow,
  '°': { fontSize: '0.5em', verticalAlign: '0.5em' },
};

const lesser = {
  minHeight: 64,
  minWidth: 0,
  px: 1,
  fontSize: '1.0625rem',
  lineHeight: 1.2,
  whiteSpace: 'normal',
};

function Controls(props: Props) {
  const { script, state, at, count, habit, more, done, back, backTier, skip, happened } = props;
  const word =
    habit === 'facet' || count === 1
      ? w.bench.done
      : habit === 'round'
        ? w.bench.doneRound(count)
        : w.bench.doneTier(count);
  const tier = lastTier(script, state);
  const tierName = tier[0] !== undefined && script.facets[script.visits[tier[0]]!.facet]!.tier;
  const others = [
    { name: w.bench.back, run: back },
    ...(tierName && tier.length > 1 && at === state.at
      ? [{ name: w.bench.backTier(tierName, tier.length), run: backTier }]
      : []),
    { name: at === state.at ? w.bench.skip : w.bench.leaveOpen, run: skip },
    { name: wheelWords.happened, run: happened },
  ];
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: `repeat(${others.length + 1}, minmax(0, 1fr))`,
        gap: 2,
        flexShrink: 0,
        [short]: { gridTemplateColumns: `2fr repeat(${others.length + 1}, 1fr)` },
      }}
    >
      <Button
        variant="contained"
        color="primary"
        data-done
        onClick={done}
        sx={{
          gridColumn: '1 / -1',
          minHeight: 'clamp(64px, 11.5vh, 140px)',
          fontSize: '1.75rem',
          [short]: { gridColumn: 'auto' },
        }}
      >
        {word}
      </Button>
      {others.map(({ name, run }) => (
        <Button key={name} onClick={run} sx={lesser}>
          {name}
        </Button>
      ))}
      <MenuButton label={wheelWords.more} entries={[...more]} sx={lesser} row={64} />
    </Box>
  );
}

/**
 * The stone now, with the point that the cut runs to ringed and where it comes in after a second, and
 * as it is after the cut.
 */
function Pictures({ script, at, asCut }: Pick<Props, 'script' | 'at' | 'asCut'>) {
  const visit = script.visits[at]!;
  const facet = script.facets[visit.facet]!;
  const setup = script.setups[facet.setup]!;
  const up = upOf(setup);
  const marks = { ring: vec(facet.target), now: facet.no };
  // Of a stone that is otherwise than planned nobody knows where the facet comes in first.
  const touch = visit.first && !asCut ? touchOf(facet) : undefined;
  const now = asCut ? { mesh: asCut.cut, step: 0 } : { mesh: script.mesh, step: visit.now };
  const after = asCut?.next
    ? { mesh: asCut.next, step: 0 }
    : { mesh: script.mesh, step: visit.after };
  // Its thickness comes with the second side.
  const { girdle } =
    setup.up !== '' && facet.setup === script.setups.length - 1 ? script.levels : { girdle: null };
  return (
    <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', p: 2 }}>
      <Box sx={{ flex: '1 1 0', minHeight: 0 }}>
        <StoneInWheel
          {...now}
          up={up}
          wheel={script.wheel}
          current={facet.dial}
          label={`${w.drawing.inWheel(upName(setup))}, ${w.bench.now}`}
          touch={touch}
          girdle={girdle}
          {...marks}
        />
      </Box>
      <Typography color="text.secondary" sx={{ textAlign: 'center', minHeight: 24 }}>
        {[
          touch && w.bench.touch,
          asCut && wheelWords.asItIs,
          facet.atMeet && w.bench.stopHere,
          touch?.tempting && w.bench.falseMeet(plain(facet.touch.early)),
          girdle && isUneven(girdle) && w.bench.thinnest,
        ]
          .filter(Boolean)
          .join(' ')}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height: '30%', gap: 2 }}>
        <Captioned caption={w.bench.after}>
          <StoneInWheel
            {...after}
            up={up}
            label={`${w.drawing.inWheel(upName(setup))}, ${w.bench.after}`}
            pixel={0.8}
            {...marks}
          />
        </Captioned>
        <Captioned caption={w.bench.after}>
          <Profile {...after} levels={script.levels} {...marks} ring={undefined} />
        </Captioned>
      </Box>
    </Box>
  );
}

/** Where a facet comes in, for the drawing. */
function touchOf({ touch }: BenchScript['facets'][number]): Touch | undefined {
  if (touch.patch.length === 0) return undefined;
  return { patch: touch.patch.map(vec), tempting: touch.false ? vec(touch.false) : undefined };
}

function Captioned({ caption, children }: { caption: string; children: ReactNode }) {
  return (
    <Box component="figure" sx={{ m: 0, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      <Box sx={{ flex: '1 1 0', minHeight: 0 }}>{children}</Box>
      <Typography component="figcaption" color="text.secondary" sx={{ textAlign: 'center' }}>
        {caption}
      </Typography>
    </Box>
  );
}
