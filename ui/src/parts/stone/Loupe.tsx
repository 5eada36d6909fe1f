import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { useId, useState } from 'react';
import type { Draft, Loupe as Report } from '../../api/client';
import { ranges } from '../../api/ranges';
import { loupeQuery } from '../../api/solving';
import { ChoiceList } from '../ChoiceList';
import { Await } from '../Page';
import { NumberField } from '../fields/NumberField';
import { numbers, PickField } from '../fields/PickField';
import { lookingFrom, project, vec, type Vec } from './geometry';
import type { RingMark } from './grab';
import { BothSides } from './BothSides';
import { StoneFaces } from './StoneFaces';
import { faces } from '../../theme/tokens';
import { um } from '../../words/numbers';
import { editingWords } from '../../words/editing';

const l = editingWords.loupe;

/** A screen's pixel is so many millimetres wide. */
const pixelMM = 25.4 / 96;
const size = 340;
const powers = [10, 40, 200] as const;
/** Meets that are listed and ringed: the widest. */
const listed = 12;

interface Props {
  draft: Draft;
  /** The draft before its angles were rounded: its meets are looked at. */
  exact?: Draft;
  /** Gears to look at the stone on. */
  gears: number[];
  /** The width in mm to begin with. */
  at: number;
  onClose: () => void;
}

/** How the meets come out at the finished size: on another gear, or without the cheats it asks for. */
export function Loupe({ draft, exact, gears, at, onClose }: Props) {
  const own = Number(draft.gear);
  const [width, setWidth] = useState(at);
  const [gear, setGear] = useState(exact ? own : (gears.find((g) => g !== own) ?? own));
  const [cut, setCut] = useState<'cheats' | 'teeth'>(exact ? 'cheats' : 'teeth');
  const body = { draft, exact: exact ?? null, width, gear, wholeTeeth: cut === 'teeth' };
  const report = useQuery(loupeQuery(body));
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{l.title}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', my: 2 }}>
          <NumberField
            label={l.width}
            unit="mm"
            {...ranges.LoupeRequest.width}
            value={width}
            onChange={setWidth}
            width={140}
          />
          {!exact && (
            <>
              <PickField
                label={l.gear}
                value={gear}
                options={numbers([own, ...gears], (g) => (g === own ? l.own(g) : String(g)))}
                onChange={setGear}
                width={150}
              />
              <PickField
                label={l.how}
                value={cut}
                options={{ teeth: l.teeth, cheats: l.cheats }}
                onChange={setCut}
                width={300}
              />
            </>
          )}
        </Box>
        <Await query={report}>{(r) => <Magnified report={r} />}</Await>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{l.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

/** The meets of a stone, one of them magnified. */
function Magnified({ report }: { report: Report }) {
  const [chosen, setChosen] = useState(0);
  const [power, setPower] = useState<(typeof powers)[number]>(200);
  const meet = report.meets[chosen] ?? report.meets[0];
  if (!meet) return null;
  const rings: RingMark[] = report.meets.slice(0, listed).map((m, i) => ({
    at: vec(m.point),
    n: i + 1,
    label: `${i + 1}: ${m.facets.join(' ')}`,
    chosen: m === meet,
    run: () => setChosen(i),
  }));
  return (
    <>
      <Typography color="text.secondary">{l.help}</Typography>
      {meet.gap === 0 && report.meets[0]!.gap === 0 && <Typography>{l.fine}</Typography>}
      <Box sx={{ display: 'flex', gap: 5, flexWrap: 'wrap', mt: 3 }}>
        <Box>
          <Glass report={report} at={vec(meet.point)} name={meet.facets.join(' ')} power={power} />
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mt: 2 }}>
            <ToggleButtonGroup
              exclusive
              value={power}
              onChange={(_, p: typeof power | null) => p && setPower(p)}
              aria-label={l.power}
            >
              {powers.map((p) => (
                <ToggleButton key={p} value={p}>
                  {p}×
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
            <Typography variant="figures">
              {l.gap} {um(meet.gap)} · {l.residual} {um(meet.residual)}
            </Typography>
          </Box>
        </Box>
        <Box sx={{ flex: '1 1 300px' }}>
          <BothSides mesh={report.mesh} height={230} rings={rings} pixel={0.75} />
          <Typography sx={{ mt: 2 }}>{l.worst}</Typography>
          <ChoiceList
            label={l.worst}
            list={report.meets.slice(0, listed)}
            keyOf={(_, i) => i}
            isChosen={(m) => m === meet}
            onChoose={(_, i) => setChosen(i)}
            now
            row={32}
            most={190}
          >
            {(m, i) => (
              <>
                <span>
                  {i + 1} · {m.facets.slice(0, 4).join(' ')}
                  {m.facets.length > 4 && ' …'}
                </span>
                <Typography variant="figures">{um(m.gap)}</Typography>
              </>
            )}
          </ChoiceList>
        </Box>
      </Box>
    </>
  );
}

/** A meet magnified: a round view of the stone about it, with a scale. */
function Glass({
  report,
  at,
  name,
  power,
}: {
  report: Report;
  at: Vec;
  name: string;
  power: number;
}) {
  const { tokens } = useTheme();
  const clip = useId();
  const camera = lookingFrom(report.mesh, 0, at);
  const [x, y] = project(camera, at);
  // Half of what is in sight, in design units: the loupe's width on the screen over its power.
  const half = (size * pixelMM) / power / 2 / report.mmPerUnit;
  const pixel = (2 * half) / size;
  // A bar that reads as 10, 100 or 1000 µm, whichever is long enough to be seen.
  const bar = [10, 100, 1000].find((v) => v / 1000 / report.mmPerUnit > 14 * pixel) ?? 1000;
  const long = bar / 1000 / report.mmPerUnit;
  return (
    <svg
      width={size}
      height={size}
      viewBox={`${x - half} ${y - half} ${2 * half} ${2 * half}`}
      role="img"
      aria-label={l.view(name)}
    >
      <clipPath id={clip}>
        <circle cx={x} cy={y} r={half * 0.98} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <rect x={x - half} y={y - half} width={2 * half} height={2 * half} fill={tokens.sheet} />
        <StoneFaces mesh={report.mesh} step={0} camera={camera} pixel={pixel} />
      </g>
      <circle
        cx={x}
        cy={y}
        r={half * 0.98}
        fill="none"
        stroke={tokens.ink}
        strokeWidth={2 * pixel}
      />
      <g stroke={tokens.ember} strokeWidth={3 * pixel}>
        <line x1={x - long / 2} x2={x + long / 2} y1={y + half * 0.78} y2={y + half * 0.78} />
      </g>
      <text
        x={x}
        y={y + half * 0.78 - 8 * pixel}
        fontSize={14 * pixel}
        textAnchor="middle"
        fontFamily={faces.figures}
        fill={tokens.ink}
        stroke={tokens.sheet}
        strokeWidth={4 * pixel}
        paintOrder="stroke"
      >
        {um(bar)}
      </text>
    </svg>
  );
}
