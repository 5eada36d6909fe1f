import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import type { KeyboardEvent, MouseEvent } from 'react';
import type { Spot } from '../../api/client';
import { arrowOf, shareIn, useDrag } from '../../parts/gestures/useDrag';
import { libraryWords } from '../../words/library';

const p = libraryWords.quick.pad;

/** Half of the pad's side, in the units of the corners. */
const half = 6;
/** How far an arrow key moves a corner. */
const fine = 0.1;
export const mostCorners = 32;

interface Props {
  corners: Spot[];
  onChange: (corners: Spot[]) => void;
}

/** An outline drawn by its corners: dragged, moved with the arrow keys, added by a press on the pad. */
export function OutlinePad({ corners, onChange }: Props) {
  const { tokens } = useTheme();
  const put = (i: number, to: Spot) => onChange(corners.map((c, k) => (k === i ? within(to) : c)));
  const add = (e: MouseEvent<SVGElement>) => {
    if (corners.length >= mostCorners) return;
    const [right, down] = shareIn(e.currentTarget, e);
    const at = within({ x: (right * 2 - 1) * half, y: (1 - down * 2) * half });
    const i = nearestSide(corners, at);
    onChange([...corners.slice(0, i + 1), at, ...corners.slice(i + 1)]);
  };
  return (
    <Box sx={{ width: '100%' }}>
      <Box
        component="svg"
        viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
        role="group"
        aria-label={p.label}
        sx={{
          width: 300,
          border: 1,
          borderColor: 'divider',
          touchAction: 'none',
          cursor: 'crosshair',
        }}
        onClick={add}
      >
        <g stroke={tokens.hairline} strokeWidth={0.02}>
          {Array.from({ length: 2 * half + 1 }, (_, i) => i - half).map((v) => (
            <g key={v}>
              <line x1={v} x2={v} y1={-half} y2={half} />
              <line y1={v} y2={v} x1={-half} x2={half} />
            </g>
          ))}
        </g>
        <polygon
          points={corners.map((c) => `${c.x},${-c.y}`).join(' ')}
          fill={tokens.copperWash}
          fillOpacity={0.5}
          stroke={tokens.ink}
          strokeWidth={0.06}
        />
        {corners.map((c, i) => (
          <Corner
            key={i}
            at={c}
            label={p.corner(i + 1)}
            onMove={(to) => put(i, to)}
            onDrop={() => corners.length > 3 && onChange(corners.filter((_, k) => k !== i))}
          />
        ))}
      </Box>
      <Typography color="text.secondary" variant="body2">
        {p.help}
      </Typography>
    </Box>
  );
}

interface CornerProps {
  at: Spot;
  label: string;
  onMove: (to: Spot) => void;
  onDrop: () => void;
}

function Corner({ at, label, onMove, onDrop }: CornerProps) {
  const { tokens } = useTheme();
  const drag = useDrag({
    move: (_x, _y, e) => {
      const svg = (e.currentTarget as SVGElement).ownerSVGElement!;
      const [right, down] = shareIn(svg, e);
      onMove({ x: (right * 2 - 1) * half, y: (1 - down * 2) * half });
    },
  });
  const key = (e: KeyboardEvent) => {
    const arrow = arrowOf(e.key);
    if (arrow) onMove({ x: at.x + fine * arrow.right, y: at.y + fine * arrow.up });
    else if (e.key === 'Delete' || e.key === 'Backspace') onDrop();
    else return;
    e.preventDefault();
  };
  return (
    <circle
      {...drag}
      cx={at.x}
      cy={-at.y}
      r={0.28}
      fill={tokens.sheet}
      stroke={tokens.copper}
      strokeWidth={0.1}
      tabIndex={0}
      role="button"
      aria-label={label}
      style={{ cursor: 'grab' }}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={key}
    />
  );
}

/** A corner on the pad, to a hundredth. */
function within({ x, y }: Spot): Spot {
  const bound = (v: number) => Math.round(Math.min(half, Math.max(-half, v)) * 100) / 100;
  return { x: bound(x), y: bound(y) };
}

/** The corner after which a new one at a point belongs: that of the side it lies nearest to. */
export function nearestSide(corners: readonly Spot[], at: Spot): number {
  const distances = corners.map((a, i) => {
    const b = corners[(i + 1) % corners.length]!;
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const along = ((at.x - a.x) * dx + (at.y - a.y) * dy) / (dx * dx + dy * dy || 1);
    const t = Math.min(1, Math.max(0, along));
    return Math.hypot(at.x - a.x - t * dx, at.y - a.y - t * dy);
  });
  return distances.indexOf(Math.min(...distances));
}
