import { useTheme } from '@mui/material/styles';
import type { Preform } from '../../api/gluing';
import { faces } from '../../theme/tokens';
import { gluingWords } from '../../words/gluing';
import { angle, mm } from '../../words/numbers';
import { boxOf, pointsOf, svgPoints, type Point } from './flat';

/** The stone inside what is ground for it: a cone on a cylinder, or a block that is larger all round. */
export function PreformDrawn({ preform, turned }: { preform: Preform; turned: boolean }) {
  const { tokens } = useTheme();
  // The side that is cut points up here, as it does in the hand.
  const stone = pointsOf(preform.outline).map(([x, y]): Point => [x, -y]);
  const around = boxOf(stone);
  const cone = turned ? preform.turned : null;
  const blank: Point[] = cone
    ? outlineOf(cone)
    : [
        [around.x - preform.side, around.y - preform.side],
        [around.x + around.width + preform.side, around.y - preform.side],
        [around.x + around.width + preform.side, around.y + around.height + preform.foot],
        [around.x - preform.side, around.y + around.height + preform.foot],
      ];
  const box = boxOf([...stone, ...blank]);
  const pixel = Math.max(box.width / 330, box.height / 300);
  const view = {
    x: box.x - 40 * pixel,
    y: box.y - 30 * pixel,
    width: box.width + (cone ? 230 : 160) * pixel,
    height: box.height + 80 * pixel,
  };
  const right = box.x + box.width + 22 * pixel;
  const bottom = box.y + box.height;
  const edge = cone ? bottom - cone.straight : undefined;
  return (
    <svg
      viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
      width="100%"
      height="100%"
      role="img"
      aria-label={gluingWords.preform.drawn}
    >
      <polygon
        points={svgPoints(blank)}
        fill={tokens.rough}
        stroke={tokens.ink}
        strokeWidth={1.6 * pixel}
        strokeLinejoin="round"
      />
      <polygon
        points={svgPoints(stone)}
        fill={tokens.copperWash}
        stroke={tokens.copper}
        strokeWidth={1.6 * pixel}
        strokeLinejoin="round"
      />
      <line
        x1={0}
        x2={0}
        y1={view.y + 6 * pixel}
        y2={bottom + 10 * pixel}
        stroke={tokens.faint}
        strokeWidth={0.8 * pixel}
        strokeDasharray={`${9 * pixel} ${3 * pixel} ${2 * pixel} ${3 * pixel}`}
      />
      <g stroke={tokens.ink} strokeWidth={pixel}>
        <Span from={[right, box.y]} to={[right, bottom]} tick={5 * pixel} />
        {edge !== undefined && (
          <Span
            from={[right + 70 * pixel, edge]}
            to={[right + 70 * pixel, bottom]}
            tick={5 * pixel}
          />
        )}
        <Span
          from={[box.x, bottom + 20 * pixel]}
          to={[box.x + box.width, bottom + 20 * pixel]}
          tick={5 * pixel}
        />
      </g>
      <g fontFamily={faces.figures} fontSize={15 * pixel} fill={tokens.ink}>
        <text x={right + 6 * pixel} y={box.y + 0.25 * box.height}>
          {mm(cone?.height ?? preform.height)}
        </text>
        {cone && edge !== undefined && (
          <>
            <text x={right + 76 * pixel} y={(edge + bottom) / 2 + 5 * pixel}>
              {mm(cone.straight)}
            </text>
            <text x={box.x} y={box.y + 4 * pixel}>
              {angle(cone.angle)}°
            </text>
          </>
        )}
        <text x={box.x + box.width / 2} y={bottom + 40 * pixel} textAnchor="middle">
          {mm(box.width)}
        </text>
      </g>
    </svg>
  );
}

/** A cone on a cylinder from the side, y down. */
function outlineOf(t: NonNullable<Preform['turned']>): Point[] {
  const r = t.diameter / 2;
  const bottom = -t.foot;
  return [
    [0, bottom - t.height],
    [r, bottom - t.straight],
    [r, bottom],
    [-r, bottom],
    [-r, bottom - t.straight],
  ];
}

/** A measure between two points that lie level or upright to each other, with its ticks. */
function Span({ from, to, tick }: { from: Point; to: Point; tick: number }) {
  const upright = from[0] === to[0];
  return (
    <>
      <line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} />
      {[from, to].map(([x, y], i) => (
        <line
          key={i}
          x1={x - (upright ? tick : 0)}
          x2={x + (upright ? tick : 0)}
          y1={y - (upright ? 0 : tick)}
          y2={y + (upright ? 0 : tick)}
        />
      ))}
    </>
  );
}
