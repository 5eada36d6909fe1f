import { useTheme } from '@mui/material/styles';
import { useId } from 'react';
import type { MountedDop, Mounting } from '../../api/gluing';
import { faces } from '../../theme/tokens';
import { gluingWords } from '../../words/gluing';
import { mm } from '../../words/numbers';
import { boxOf, dopOutline, ontoLap, pointsOf, svgPoints, type Point } from './flat';

const k = gluingWords.held;

interface Props {
  mounting: Mounting;
  dop: MountedDop;
  /** Which tier meets the lap, by its place. */
  tier: number;
  /** How wide the quill is and how far behind the rim it begins, in mm; 0 where nobody knows. */
  quill: number;
  reach: number;
}

/** How much of an unmeasured dop is drawn, and how much of a quill, in mm. */
const drawnDop = 6;
const drawnQuill = 6;

/** A stone on its dop, tilted as it is when a tier meets the lap, with what stays off it. */
export function HeldDrawn({ mounting, dop, tier, quill, reach }: Props) {
  const { tokens } = useTheme();
  const clip = useId();
  const t = mounting.tiers[tier];
  if (!t) return null;
  const tilt = ontoLap(t.angle);
  const known = quill > 0 && reach > 0;
  const length = known ? reach : drawnDop;
  const stone = pointsOf(t.stone).map(tilt);
  const body = pointsOf(t.body).map(tilt);
  // The line of sight lies square to the azimuth of the facet that meets the lap.
  const rod = dopOutline(dop, length, t.azimuth + 90 - mounting.along).map(tilt);
  const nose: Point[] = known
    ? (
        [
          [-quill / 2, -dop.near - reach],
          [quill / 2, -dop.near - reach],
          [quill / 2, -dop.near - reach - drawnQuill],
          [-quill / 2, -dop.near - reach - drawnQuill],
        ] as Point[]
      ).map(tilt)
    : [];
  const lap = t.distance;
  const box = boxOf([...stone, ...body, ...rod, ...nose, [0, lap]]);
  const pad = 0.08 * Math.max(box.width, box.height);
  const [x, width] = [box.x - pad, box.width + 2 * pad];
  const [y, height] = [box.y - pad, Math.max(box.height, lap - box.y) + 3 * pad];
  const pixel = Math.max(width / 560, height / 420);
  const room = dop.rooms[tier]!;
  // The lowest corner of the dop is where the room is.
  const low = rod.reduce((a, b) => (b[1] > a[1] ? b : a));
  // Where the quill would meet the lap, the lap ends before it: the cut is made at its rim.
  const atRim = (dop.quills[tier] ?? 0) < 0;
  const end = atRim ? Math.min(...nose.map(([nx]) => nx)) - 2 * pixel : x + width;
  const tight = room < 0.3;
  return (
    <svg
      viewBox={`${x} ${y} ${width} ${height}`}
      width="100%"
      height="100%"
      role="img"
      aria-label={`${k.drawn(t.tier)}: ${k.clears(room)}`}
    >
      <defs>
        <clipPath id={clip}>
          <rect x={x} y={y} width={width} height={lap - y} />
        </clipPath>
      </defs>
      <g strokeWidth={1.4 * pixel} stroke={tokens.ink} strokeLinejoin="round">
        <polygon points={svgPoints(rod)} fill={tokens.facetDark} />
        {!known && (
          // Nobody knows how long the dop is: its far end stays open.
          <polyline
            points={svgPoints(rod.slice(-2))}
            stroke={tokens.paper}
            strokeWidth={4 * pixel}
            fill="none"
          />
        )}
        {known && <polygon points={svgPoints(nose)} fill={tokens.rough} />}
        <polygon
          points={svgPoints(body)}
          fill={tokens.rough}
          fillOpacity={0.5}
          stroke={tokens.faint}
          strokeDasharray={`${4 * pixel} ${3 * pixel}`}
          strokeWidth={pixel}
          clipPath={`url(#${clip})`}
        />
        <polygon points={svgPoints(stone)} fill={tokens.copperWash} stroke={tokens.copper} />
      </g>
      <rect x={x} y={lap} width={end - x} height={2 * pad} fill={tokens.facetLight} />
      <polyline
        points={`${x},${lap} ${end},${lap} ${atRim ? `${end},${lap + 2 * pad}` : ''}`}
        fill="none"
        stroke={tokens.ink}
        strokeWidth={2.4 * pixel}
      />
      {room < 99 && (
        <g stroke={tight ? tokens.alarm : tokens.ember} strokeWidth={2 * pixel}>
          <line x1={low[0]} x2={low[0]} y1={low[1]} y2={lap} />
          <line x1={low[0] - 5 * pixel} x2={low[0] + 5 * pixel} y1={low[1]} y2={low[1]} />
        </g>
      )}
      <g fontFamily={faces.figures} fontSize={15 * pixel} fill={tokens.ink}>
        {room < 99 && (
          <text
            x={low[0] + (low[0] > x + width * 0.7 ? -10 : 10) * pixel}
            y={room > 24 * pixel ? (low[1] + lap) / 2 + 5 * pixel : lap + 20 * pixel}
            textAnchor={low[0] > x + width * 0.7 ? 'end' : 'start'}
            fill={tight ? tokens.alarm : tokens.ember}
          >
            {mm(room)}
          </text>
        )}
        <text x={x + 6 * pixel} y={lap + 20 * pixel} fill={tokens.faint}>
          {atRim ? k.lapRim : k.lap}
        </text>
      </g>
    </svg>
  );
}
