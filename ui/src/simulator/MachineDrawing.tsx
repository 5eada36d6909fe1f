import { useTheme } from '@mui/material/styles';
import { faces } from '../theme/tokens';
import { plain } from '../words/numbers';
import { simulatorWords as t } from '../words/simulator';
import type { Scene } from './useMachine';

/** x and y of points in turn, as SVG takes them: y downwards. */
const pointsOf = (flat: readonly number[]): string =>
  flat.map((v, i) => (i % 2 === 0 ? v : -v).toFixed(3)).join(' ');

/** The machine from the side: mast, quill, stone and lap, in mm. */
export function MachineDrawing({ scene }: { scene: Scene }) {
  const { tokens } = useTheme();
  const [pivotX, pivotY] = scene.quill as [number, number];
  const middle = scene.quill.slice(-2) as [number, number];
  // The whole of mast and lap, whatever the quill does.
  const [left, right, top] = [-108, 44, 104];
  const across = `M${left} 0H${right}`;
  return (
    <svg
      viewBox={`${left} ${-top} ${right - left} ${top + 16}`}
      role="img"
      aria-label={t.side}
      width="100%"
      height="100%"
    >
      <rect x={left} y={0} width={right - left} height={6} fill={tokens.rough} />
      <path d={across} stroke={tokens.ink} strokeWidth={0.7} />
      <Teeth from={left} to={right} moving={scene.controls.rpm > 0} />
      <rect
        x={pivotX - 3}
        y={-top}
        width={6}
        height={top}
        fill="none"
        stroke={tokens.hairline}
        strokeWidth={0.6}
      />
      <path
        d={`M${pivotX - 9} ${-pivotY}h18`}
        stroke={tokens.ink}
        strokeWidth={3}
        strokeLinecap="round"
      />
      <polyline
        points={pointsOf(scene.quill)}
        fill="none"
        stroke={tokens.ink}
        strokeWidth={2.6}
        strokeLinejoin="round"
      />
      <polygon
        points={pointsOf(scene.outline)}
        fill={tokens.facetLight}
        stroke={tokens.ink}
        strokeWidth={0.5}
      />
      <circle cx={pivotX} cy={-pivotY} r={2} fill={tokens.sheet} stroke={tokens.ink} />
      {scene.sound > 0 && (
        <g stroke={tokens.ember} strokeWidth={0.8} strokeLinecap="round">
          {[1, 2, 3].map((n) => (
            <path
              key={n}
              opacity={scene.sound}
              d={`M${middle[0] + 4 + 3 * n} ${-1} q3 ${-1.5 * n} 6 ${-2 * n}`}
            />
          ))}
        </g>
      )}
      <text
        x={pivotX + 13}
        y={-pivotY + 1.5}
        fontFamily={faces.figures}
        fontSize={4.6}
        fill={tokens.faint}
      >
        {plain(scene.height)} mm
      </text>
    </svg>
  );
}

/** Strokes under the lap's face, so that it is seen to be one. */
function Teeth({ from, to, moving }: { from: number; to: number; moving: boolean }) {
  const { tokens } = useTheme();
  const every = 4;
  const strokes = Array.from({ length: Math.floor((to - from) / every) }, (_, i) => {
    const x = from + every * i;
    return `M${x} 6l${moving ? 4 : 0} -6`;
  });
  return <path d={strokes.join('')} stroke={tokens.hairline} strokeWidth={0.5} />;
}
