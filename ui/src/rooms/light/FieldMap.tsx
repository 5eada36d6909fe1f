import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Axis, SweptPoint } from '../../api/client';
import { arrowOf, shareIn, useDrag } from '../../parts/gestures/useDrag';
import { lightWords } from '../../words/light';
import { axisText, valueText, type Field } from './field';
import { mapped, type MapOf } from './MapChoice';

/** A place of the field, counted from the least values. */
export interface Spot {
  column: number;
  row: number;
}

interface Props {
  field: Field;
  of: MapOf;
  allowed: (p: SweptPoint) => boolean;
  spot: Spot | undefined;
  onSpot: (s: Spot) => void;
}

/** From little to much, each step lighter than the last, so that it can be read in grey. */
const scale = ['#20293a', '#3b4a6b', '#6a6f95', '#a9909c', '#dcb57c', '#f6e3a1'].map((hex) =>
  [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)),
);

/** The colour of a share of the way from the least to the most. */
function shade(share: number, strength: number, ground: number[]): string {
  const at = Math.min(0.9999, Math.max(0, share)) * (scale.length - 1);
  const [low, high] = [scale[Math.floor(at)]!, scale[Math.floor(at) + 1]!];
  const mix = low.map((c, i) => c + (high[i]! - c) * (at % 1));
  return `rgb(${mix.map((c, i) => Math.round(ground[i]! + (c - ground[i]!) * strength)).join()})`;
}

const cell = 16;

/** The cell that holds a share of the way along so many. */
const within = (share: number, cells: number): number =>
  Math.min(cells - 1, Math.max(0, Math.floor(share * cells)));

/** The field as a map: a cell for every point, light where the figure is large. */
export function FieldMap({ field, of, allowed, spot, onSpot }: Props) {
  const s = lightWords.sweep;
  const { tokens } = useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { x, y, points } = field;
  const values = points.flatMap((p) => (p?.whole ? [mapped[of].of(p)] : []));
  const low = Math.min(...values);
  const high = Math.max(...values);
  useEffect(() => {
    const g = canvas.current?.getContext('2d');
    if (!g) return;
    const ground = [1, 3, 5].map((i) => parseInt(tokens.sheet.slice(i, i + 2), 16));
    g.clearRect(0, 0, x.steps * cell, y.steps * cell);
    points.forEach((p, no) => {
      if (!p) return;
      const left = (no % x.steps) * cell;
      const top = (y.steps - 1 - Math.floor(no / x.steps)) * cell;
      if (!p.whole) {
        // A stroke instead of a colour: nothing is known of it.
        g.strokeStyle = tokens.hairline;
        g.beginPath();
        g.moveTo(left, top + cell);
        g.lineTo(left + cell, top);
        g.stroke();
        return;
      }
      const share = high > low ? (mapped[of].of(p) - low) / (high - low) : 1;
      g.fillStyle = shade(share, allowed(p) ? 1 : 0.25, ground);
      g.fillRect(left, top, cell, cell);
    });
  }, [points, of, allowed, tokens, x.steps, y.steps, low, high]);
  const place = (a: Axis, v: number) =>
    (100 * (((v - a.from) / (a.to - a.from)) * (a.steps - 1) + 0.5)) / a.steps;
  const pick = (e: PointerEvent<Element>) => {
    const [across, down] = shareIn(e.currentTarget, e);
    onSpot({ column: within(across, x.steps), row: within(1 - down, y.steps) });
  };
  const drag = useDrag({
    begin: (e) => {
      pick(e);
      return true;
    },
    move: (_x, _y, e) => pick(e),
  });
  const key = (e: KeyboardEvent) => {
    const arrow = arrowOf(e.key);
    if (!arrow) return;
    e.preventDefault();
    e.stopPropagation();
    const far = e.shiftKey ? 5 : 1;
    const from = spot ?? { column: Math.floor(x.steps / 2), row: Math.floor(y.steps / 2) };
    onSpot({
      column: Math.min(x.steps - 1, Math.max(0, from.column + far * arrow.right)),
      row: Math.min(y.steps - 1, Math.max(0, from.row + far * arrow.up)),
    });
  };
  const inside = (a: Axis, v: number) => v >= a.from && v <= a.to;
  const { present } = field;
  const here = present && inside(x, present.x) && inside(y, present.y) ? present : undefined;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'max-content minmax(0, 400px)',
        justifyContent: 'start',
        columnGap: 2,
      }}
    >
      <Ends axis={y} upright name={axisText(y, field.tiers)} />
      <Box
        role="application"
        aria-label={s.mapLabel(s.maps[of])}
        tabIndex={0}
        {...drag}
        onKeyDown={key}
        sx={{
          position: 'relative',
          aspectRatio: '1',
          touchAction: 'none',
          cursor: 'crosshair',
          border: 1,
          borderColor: 'divider',
        }}
      >
        <canvas
          ref={canvas}
          width={x.steps * cell}
          height={y.steps * cell}
          style={{ width: '100%', height: '100%', display: 'block', imageRendering: 'pixelated' }}
        />
        {here && <Mark left={place(x, here.x)} bottom={place(y, here.y)} kind="present" />}
        {spot && (
          <Mark
            left={(100 * (spot.column + 0.5)) / x.steps}
            bottom={(100 * (spot.row + 0.5)) / y.steps}
            kind="chosen"
          />
        )}
      </Box>
      <span />
      <Ends axis={x} name={axisText(x, field.tiers)} />
      <span />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 4, alignItems: 'center', mt: 2 }}>
        {values.length > 0 && (
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
            <Typography variant="figures">{mapped[of].format(low)}</Typography>
            <Box
              aria-hidden
              sx={{
                width: 110,
                height: 12,
                background: `linear-gradient(to right, ${scale.map((c) => `rgb(${c.join()})`).join()})`,
              }}
            />
            <Typography variant="figures">{mapped[of].format(high)}</Typography>
          </Box>
        )}
        {here && <Key kind="present" text={s.present} />}
        {spot && <Key kind="chosen" text={s.chosen} />}
      </Box>
    </Box>
  );
}

/** The ends of an axis with its name between them. */
function Ends({ axis, name, upright }: { axis: Axis; name: string; upright?: boolean }) {
  const ends = [valueText(axis, axis.from), name, valueText(axis, axis.to)];
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        mt: upright ? 0 : 1,
        ...(upright && { writingMode: 'vertical-rl', transform: 'rotate(180deg)' }),
      }}
    >
      {ends.map((text, i) => (
        <Typography key={i} variant={i === 1 ? 'body1' : 'figures'}>
          {text}
        </Typography>
      ))}
    </Box>
  );
}

type MarkKind = 'present' | 'chosen';

/** A ring for the diagram as it is, a square for what is chosen; both with a light rim. */
const markLook = (kind: MarkKind) => ({
  width: 15,
  height: 15,
  border: 2,
  borderColor: kind === 'present' ? 'secondary.main' : 'primary.main',
  borderRadius: kind === 'present' ? '50%' : 0,
  outline: '1.5px solid',
  outlineColor: 'background.paper',
  boxSizing: 'border-box',
});

function Mark({ left, bottom, kind }: { left: number; bottom: number; kind: MarkKind }) {
  return (
    <Box
      aria-hidden
      sx={{
        ...markLook(kind),
        position: 'absolute',
        left: `${left}%`,
        bottom: `${bottom}%`,
        transform: 'translate(-50%, 50%)',
        pointerEvents: 'none',
      }}
    />
  );
}

function Key({ kind, text }: { kind: MarkKind; text: string }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
      <Box aria-hidden sx={markLook(kind)} />
      <Typography color="text.secondary">{text}</Typography>
    </Box>
  );
}
