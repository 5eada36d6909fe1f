import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useState, type ReactNode } from 'react';
import type { Draft, Place, StoneView } from '../../api/client';
import { LightView } from '../light/LightView';
import type { Lighting } from '../light/lighting';
import { TintField } from '../light/TintField';
import { Care } from '../Page';
import { lastStep, vec, type Side } from './geometry';
import type { Grab, RingMark } from './grab';
import { Profile } from './Profile';
import { momentOf, StepSlider } from './StepSlider';
import { StoneInTheRound } from './StoneInTheRound';
import { StoneInWheel } from './StoneInWheel';
import { lightWords } from '../../words/light';
import { percent } from '../../words/numbers';
import { w } from '../../words/words';
import { StoneFigures } from './StoneFigures';

interface Props {
  stone: StoneView | undefined;
  problems: Place[];
  warnings: Place[];
  /** The key of the selected tier. */
  selected: string | null;
  onSelect: (tier: string | null) => void;
  note?: string;
  /** A tier that is being lowered: the drawings can be grabbed and show where it clicks. */
  hold?: Hold;
  /** How the stone is looked at under light; the draft is undefined until there is a whole one. */
  light?: { draft: Draft | undefined; lighting: Lighting };
  /** What belongs to the stone gets more room than its drawing. */
  roomy?: boolean;
  /** Says more of a length in design units than its share of the width. */
  length?: (units: number) => string;
  children: ReactNode;
}

export interface Hold {
  /** The tier's place. */
  tier: number;
  rings: readonly RingMark[];
  grab: Omit<Grab, 'facets'>;
}

/** The drawing table: the stone on the left, its figures and what belongs to it on the right. */
export function StoneDesk({
  stone,
  problems,
  warnings,
  selected,
  onSelect,
  note,
  hold,
  light,
  length,
  roomy = false,
  children,
}: Props) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: roomy ? '37% 1fr' : '46% 1fr' },
        minHeight: { md: 'calc(100vh - 110px)' },
      }}
    >
      <Box
        sx={{
          borderRight: { md: 1 },
          borderColor: { md: 'divider' },
          p: 3,
          position: { md: 'sticky' },
          top: 0,
          alignSelf: 'start',
        }}
      >
        {stone ? (
          <Drawing
            stone={stone}
            selected={selected}
            onSelect={onSelect}
            hold={hold}
            light={light}
          />
        ) : (
          <Typography color="text.secondary" sx={{ p: 6 }}>
            {w.diagrams.noDrawing}
          </Typography>
        )}
      </Box>
      <Box sx={{ minWidth: 0, p: roomy ? 3 : 4 }}>
        {problems
          .filter((p) => p.tier < 0)
          .map((p, i) => (
            <Care key={i} grave>
              {p.message}
            </Care>
          ))}
        {warnings.map((p, i) => (
          <Care key={i}>
            {p.tierName && <strong>{p.tierName}: </strong>}
            {p.message}
          </Care>
        ))}
        {children}
        {note && <Typography sx={{ my: 3, maxWidth: 560 }}>{note}</Typography>}
        {stone && (
          <SideAndFigures
            stone={stone}
            selected={selected}
            onSelect={onSelect}
            hold={hold}
            length={length}
          />
        )}
      </Box>
    </Box>
  );
}

type View = Side | 'round' | 'section' | 'light';

/** The place of a tier in the cutting order; −1 where it is not there. */
const placeOf = (stone: StoneView, key: string | null): number =>
  stone.tiers.findIndex((t) => t.key === key);

/** Facets of the tier at a place. */
function facetsOf(stone: StoneView, tier: number): Set<number> {
  const out = new Set<number>();
  stone.facets.forEach((f, i) => f.tier === tier && out.add(i));
  return out;
}

/** The ways to look at the stone. */
const Views = memo(function Views({ view, onView }: { view: View; onView: (v: View) => void }) {
  return (
    <ToggleButtonGroup
      exclusive
      value={view}
      onChange={(_, v: View | null) => v && onView(v)}
      aria-label={w.drawing.views}
    >
      <ToggleButton value="crown">{w.drawing.crownUp}</ToggleButton>
      <ToggleButton value="pavilion">{w.drawing.pavilionUp}</ToggleButton>
      <ToggleButton value="round">{w.drawing.inRound}</ToggleButton>
      <ToggleButton value="section">{w.drawing.section}</ToggleButton>
      <ToggleButton value="light">{lightWords.view}</ToggleButton>
    </ToggleButtonGroup>
  );
});

/** What a tier that is held adds to a drawing, and the moment of the cutting that is drawn. */
function holding(stone: StoneView, hold: Hold | undefined) {
  const last = lastStep(stone.mesh);
  if (!hold) return { step: last, marks: {} };
  const facets = facetsOf(stone, hold.tier);
  // The stone as it stands once the tier is cut: later tiers would hide its meets.
  const step = Math.min(last, stone.facets.filter((f) => f.tier <= hold.tier).length);
  return { step, marks: { rings: hold.rings, grab: { ...hold.grab, facets } } };
}

const Drawing = memo(function Drawing({
  stone,
  selected,
  onSelect,
  hold,
  light,
}: Pick<Props, 'selected' | 'onSelect' | 'hold' | 'light'> & { stone: StoneView }) {
  const [view, setView] = useState<View>();
  const [tint, setTint] = useState('');
  const last = lastStep(stone.mesh);
  const [chosen, setStep] = useState(Infinity);
  const held = holding(stone, hold);
  const step = hold ? held.step : Math.min(chosen, last);
  const place = placeOf(stone, selected);
  const tier = stone.tiers[place];
  const facet = !hold && step > 0 && step < last ? stone.facets[step - 1] : undefined;
  const shown =
    (facet && stone.tiers[facet.tier]) ?? tier ?? (stone.complete ? undefined : stone.tiers.at(-1));
  const up =
    (view === 'crown' || view === 'pavilion' ? view : undefined) ??
    ((shown?.up ?? 'crown') as Side);
  const marks = {
    selected: facetsOf(stone, place),
    now: facet ? step - 1 : undefined,
    ring: facet && (view === 'crown' || view === 'pavilion') ? vec(facet.target) : undefined,
    ...held.marks,
  };
  const pick = (i: number) => {
    const picked = stone.tiers[stone.facets[i]!.tier]!.key;
    onSelect(picked === selected ? null : picked);
  };
  const toStep = useCallback((s: number) => setStep(s >= last ? Infinity : s), [last]);
  const lit = facet ? [] : tier?.up === up ? tier.dials : [];
  const views = <Views view={view ?? up} onView={setView} />;
  if (view === 'light' && light) {
    return (
      <>
        {views}
        <Box sx={{ mt: 2 }}>
          <LightView
            draft={light.draft}
            lighting={{ ...light.lighting, tint }}
            height="min(42vw, calc(100vh - 420px))"
          >
            <Box sx={{ mt: 3 }}>
              <TintField value={tint} onChange={setTint} />
            </Box>
          </LightView>
        </Box>
      </>
    );
  }
  return (
    <>
      {views}
      <Box
        sx={{
          height: 'min(46vw, calc(100vh - 270px))',
          minHeight: 300,
          display: 'flex',
          justifyContent: 'center',
        }}
      >
        {view === 'section' ? (
          <Profile
            mesh={stone.mesh}
            step={step}
            levels={stone.levels}
            section={step === last ? stone.towardsTwelve : undefined}
            onPick={pick}
            {...marks}
          />
        ) : view === 'round' ? (
          <StoneInTheRound
            mesh={stone.mesh}
            step={step}
            levels={stone.levels}
            onPick={pick}
            {...marks}
          />
        ) : (
          <StoneInWheel
            mesh={stone.mesh}
            step={step}
            up={up}
            wheel={stone.wheel}
            girdle={step === last ? stone.levels.girdle : null}
            lit={lit}
            current={facet && stone.tiers[facet.tier]!.up === up ? facet.dial : undefined}
            label={w.drawing.inWheel(up)}
            onPick={pick}
            {...marks}
          />
        )}
      </Box>
      <StepSlider last={last} text={momentOf(stone, step)} step={step} onStep={toStep} />
    </>
  );
});

const SideAndFigures = memo(function SideAndFigures({
  stone,
  selected,
  onSelect,
  hold,
  length,
}: Pick<Props, 'selected' | 'onSelect' | 'hold' | 'length'> & { stone: StoneView }) {
  const held = holding(stone, hold);
  const [along, setAlong] = useState<12 | 3>(12);
  const share = (units: number) => percent(units / stone.measures.width);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', lg: '1.7fr 1fr' },
        gap: 4,
        mt: 4,
        alignItems: 'start',
      }}
    >
      <Box>
        <ToggleButtonGroup
          exclusive
          value={along}
          onChange={(_, v: 12 | 3 | null) => v && setAlong(v)}
          aria-label={w.drawing.profile}
        >
          <ToggleButton value={12}>{w.drawing.alongLength}</ToggleButton>
          <ToggleButton value={3}>{w.drawing.alongWidth}</ToggleButton>
        </ToggleButtonGroup>
        <Box sx={{ height: 230 }}>
          <Profile
            mesh={stone.mesh}
            step={held.step}
            levels={stone.levels}
            section={along === 12 ? stone.towardsTwelve : stone.towardsThree}
            {...held.marks}
            toTheRight={along}
            length={length ?? share}
            selected={facetsOf(stone, placeOf(stone, selected))}
            onPick={(i) => onSelect(stone.tiers[stone.facets[i]!.tier]!.key)}
          />
        </Box>
      </Box>
      <StoneFigures stone={stone} />
    </Box>
  );
});
