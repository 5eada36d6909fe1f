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
import { answer, client, type Draft, type Loupe as Seen } from '../../api/client';
import { Await } from '../../parts/Page';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { lookingFrom, project, vec, type Vec } from '../../parts/stone/geometry';
import type { RingMark } from '../../parts/stone/grab';
import { StoneFaces } from '../../parts/stone/StoneFaces';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { faces } from '../../theme/tokens';
import { um } from '../../words/numbers';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';

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
  at?: number;
  onClose: () => void;
}

/** How the meets come out at the finished size: on another gear, or without the cheats it asks for. */
export function Loupe({ draft, exact, gears, at = 8, onClose }: Props) {
  const own = Number(draft.gear);
  const [width, setWidth] = useState(at);
  const [gear, setGear] = useState(exact ? own : (gears.find((g) => g !== own) ?? own));
  const [cut, setCut] = useState<'cheats' | 'teeth'>(exact ? 'cheats' : 'teeth');
  const body = { draft, exact: exact ?? null, width, gear, wholeTeeth: cut === 'teeth' };
  const seen = useQuery({
    queryKey: ['loupe', body],
    queryFn: ({ signal }) => answer(client.POST('/api/loupe', { body, signal })),
    retry: false,
  });
  const choices = [...new Set([own, ...gears])].map((g) => [
    String(g),
    g === own ? l.own(g) : `${g}`,
  ]);
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{l.title}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', my: 2 }}>
          <NumberField
            label={l.width}
            unit="mm"
            min={0.1}
            max={500}
            value={width}
            onChange={setWidth}
            width={140}
          />
          {!exact && (
            <>
              <PickField
                label={l.gear}
                value={String(gear)}
                options={Object.fromEntries(choices) as Record<string, string>}
                onChange={(g) => setGear(Number(g))}
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
        <Await query={seen}>{(s) => <Under seen={s} />}</Await>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{l.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

function Under({ seen }: { seen: Seen }) {
  const [chosen, setChosen] = useState(0);
  const [power, setPower] = useState<(typeof powers)[number]>(200);
  const meet = seen.meets[chosen] ?? seen.meets[0];
  if (!meet) return null;
  const rings: RingMark[] = seen.meets.slice(0, listed).map((m, i) => ({
    at: vec(m.point),
    n: i + 1,
    label: `${i + 1}: ${m.facets.join(' ')}`,
    chosen: m === meet,
    run: () => setChosen(i),
  }));
  return (
    <>
      <Typography color="text.secondary">{l.help}</Typography>
      {meet.gap === 0 && seen.meets[0]!.gap === 0 && <Typography>{l.fine}</Typography>}
      <Box sx={{ display: 'flex', gap: 5, flexWrap: 'wrap', mt: 3 }}>
        <Box>
          <Glass seen={seen} at={vec(meet.point)} name={meet.facets.join(' ')} power={power} />
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
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height: 230 }}>
            {(['crown', 'pavilion'] as const).map((up) => (
              <StoneInWheel
                key={up}
                mesh={seen.mesh}
                step={0}
                up={up}
                wheel={[]}
                lit={[]}
                rings={rings}
                pixel={0.75}
                label={w.drawing.inWheel(up)}
              />
            ))}
          </Box>
          <Typography sx={{ mt: 2 }}>{l.worst}</Typography>
          <Box
            component="ol"
            sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 190, overflow: 'auto' }}
          >
            {seen.meets.slice(0, listed).map((m, i) => (
              <Box component="li" key={i}>
                <Button
                  fullWidth
                  aria-pressed={m === meet}
                  onClick={() => setChosen(i)}
                  sx={{
                    border: 0,
                    minHeight: 32,
                    justifyContent: 'space-between',
                    background: (t) => (m === meet ? t.tokens.emberWash : undefined),
                  }}
                >
                  <span>
                    {i + 1} · {m.facets.slice(0, 4).join(' ')}
                    {m.facets.length > 4 && ' …'}
                  </span>
                  <Typography variant="figures">{um(m.gap)}</Typography>
                </Button>
              </Box>
            ))}
          </Box>
        </Box>
      </Box>
    </>
  );
}

/** A meet magnified: a round view of the stone about it, with a scale. */
function Glass({ seen, at, name, power }: { seen: Seen; at: Vec; name: string; power: number }) {
  const { tokens } = useTheme();
  const clip = useId();
  const camera = lookingFrom(seen.mesh, 0, at);
  const [x, y] = project(camera, at);
  // Half of what is in sight, in design units: the loupe's width on the screen over its power.
  const half = (size * pixelMM) / power / 2 / seen.mmPerUnit;
  const pixel = (2 * half) / size;
  // A bar that reads as 10, 100 or 1000 µm, whichever is long enough to be seen.
  const bar = [10, 100, 1000].find((v) => v / 1000 / seen.mmPerUnit > 14 * pixel) ?? 1000;
  const long = bar / 1000 / seen.mmPerUnit;
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
        <StoneFaces mesh={seen.mesh} step={0} camera={camera} pixel={pixel} />
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
