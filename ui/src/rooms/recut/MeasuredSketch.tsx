import { useTheme } from '@mui/material/styles';
import type { MeasuredStone } from '../../api/recuts';
import { faces } from '../../theme/tokens';
import { angle, mm } from '../../words/numbers';
import { recutWords as t } from '../../words/recut';

/** What stands for a measure that is not typed yet: shares of the width, and degrees. */
const usual = { table: 0.55, girdle: 0.03, crown: 36, pavilion: 42 };

const tan = (degrees: number) => Math.tan((degrees * Math.PI) / 180);

/** The stone from the side as far as it is measured: what is typed stands at its place. */
export function MeasuredSketch({ of }: { of: MeasuredStone }) {
  const { tokens } = useTheme();
  const width = of.width || of.length || 8;
  const table = Math.min(of.table || usual.table * width, width) / 2;
  const girdle = of.girdle || usual.girdle * width;
  const half = width / 2;
  const crown = (half - table) * tan(of.crown || usual.crown);
  // A height that was measured tells how deep the pavilion is where its angle was not.
  const left = of.height - crown - girdle;
  const pavilion = of.pavilion || left <= 0 ? half * tan(of.pavilion || usual.pavilion) : left;
  const scale = 100 / width;
  const [x, top, low, tip] = [half, crown + girdle / 2, girdle / 2, girdle / 2 + pavilion].map(
    (v) => v * scale,
  ) as [number, number, number, number];
  const flat = table * scale;
  const side = x + 26;
  return (
    <svg
      viewBox={`${-x - 66} ${-top - 34} ${2 * x + 150} ${top + tip + 62}`}
      width="100%"
      height={260}
      role="img"
      aria-label={t.sketch}
    >
      <path
        d={`M${-flat} ${-top} H${flat} L${x} ${-low} V${low} L0 ${tip} L${-x} ${low} V${-low} Z`}
        fill={tokens.sheet}
        stroke={tokens.ink}
        strokeWidth={1}
        strokeLinejoin="round"
      />
      <path
        d={`M${-x} ${-low} H${x} M${-x} ${low} H${x}`}
        stroke={tokens.hairline}
        strokeWidth={0.6}
      />
      <g stroke={tokens.copper} strokeWidth={0.7} fill="none">
        <path d={`M${-flat} ${-top - 8} H${flat}`} />
        <path d={`M${-x} ${tip + 10} H${x}`} />
        <path d={`M${side} ${-top} V${tip}`} />
        <path d={`M${-x - 8} ${-low} V${low}`} />
      </g>
      <g fontFamily={faces.figures} fontSize={7} fill={tokens.ink}>
        <g textAnchor="middle">
          <text y={-top - 12}>{told(t.measures.table, of.table)}</text>
          <text y={tip + 19}>{told(t.measures.width, of.width)}</text>
        </g>
        <text x={side + 4} y={(tip - top) / 2}>
          {told(t.measures.height, of.height)}
        </text>
        <g textAnchor="end">
          <text x={-x - 11} y={2}>
            {told(t.measures.girdle, of.girdle)}
          </text>
          <text x={-(x + flat) / 2 - 4} y={-(top + low) / 2 - 4}>
            {of.crown ? `${angle(of.crown)}°` : ''}
          </text>
          <text x={-x / 2 - 6} y={(low + tip) / 2 + 8}>
            {of.pavilion ? `${angle(of.pavilion)}°` : ''}
          </text>
        </g>
      </g>
    </svg>
  );
}

const told = (name: string, length: number) => (length ? mm(length) : name);
