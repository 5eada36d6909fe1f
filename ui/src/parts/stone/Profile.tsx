import { useTheme } from '@mui/material/styles';
import { useId } from 'react';
import type { Levels, Mesh, Segment } from '../../api/client';
import { faces } from '../../theme/tokens';
import { w } from '../../words/words';
import { fromTheSide, lastStep, normalAfter, reachOf } from './geometry';
import { follow } from './grab';
import { StoneFaces, type StoneMarks } from './StoneFaces';
import { isUneven, ThinnestMark } from './ThinnestMark';

interface Props extends StoneMarks {
  mesh: Mesh;
  /** The moment of the cutting; the finished stone where it is left out. */
  step?: number;
  levels: Levels;
  section?: readonly Segment[];
  /** Which hour lies to the right, 12 where it is left out: the section runs along it. */
  toTheRight?: 12 | 3;
  /**
   * Writes a height in design units for people: in mm, or in hundredths of the width. Without it
   * the heights are left out.
   */
  length?: (units: number) => string;
  onPick?: (facet: number) => void;
}

/** The stone from the side with its heights, and the section through its axis drawn heavier. */
export function Profile({
  mesh,
  step = lastStep(mesh),
  levels,
  section,
  toTheRight = 12,
  length,
  onPick,
  ...marks
}: Props) {
  const { tokens } = useTheme();
  const clip = useId();
  const height = Math.max(levels.top - levels.bottom, 0.1);
  const tall = Math.min(height, 2.4);
  // A block reaches far beyond the stone in it: then its middle is that of the drawing.
  const middle = height > tall ? 0 : (levels.top + levels.bottom) / 2;
  const reach = reachOf(mesh);
  const half = Math.max(0.62 * tall, 0.84 * reach);
  // Wide enough for the stone on the left and, where they are told, the heights on the right.
  const wide = half * (length ? 4.4 : 2.6);
  const left = -wide * (length ? 0.31 : 0.5);
  const pixel = (2 * half) / 230;
  const marksAt = levels.hasGirdle && length ? heights(levels) : [];
  const lines = apart(
    marksAt.map((m) => -(m.from + m.to) / 2),
    18 * pixel,
  );
  return (
    <svg
      viewBox={`${left} ${-middle - half} ${wide} ${2 * half}`}
      role={marks.rings ? 'group' : 'img'}
      aria-label={w.drawing.profile}
      width="100%"
      height="100%"
    >
      <clipPath id={clip}>
        <rect x={left} y={-middle - half} width={length ? wide * 0.62 : wide} height={2 * half} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <StoneFaces
          mesh={mesh}
          step={step}
          camera={fromTheSide(toTheRight)}
          pixel={pixel}
          onPick={onPick}
          {...marks}
        />
        <g strokeLinecap="round">
          {section?.map((s) => (
            <line
              key={s.facet}
              stroke={marks.selected?.has(s.facet) ? tokens.copper : tokens.ink}
              strokeWidth={(marks.selected?.has(s.facet) ? 5 : 2.2) * pixel}
              x1={s.from.x}
              y1={-s.from.y}
              x2={s.to.x}
              y2={-s.to.y}
            />
          ))}
        </g>
        {step === lastStep(mesh) && (
          <ThinnestMark girdle={levels.girdle} camera={fromTheSide(toTheRight)} pixel={pixel} />
        )}
        {marks.grab &&
          section
            ?.filter((s) => marks.grab!.facets.has(s.facet))
            .map((s) => (
              <line
                key={s.facet}
                data-grab=""
                stroke="transparent"
                strokeWidth={22 * pixel}
                style={{ cursor: 'grab', touchAction: 'none' }}
                x1={s.from.x}
                y1={-s.from.y}
                x2={s.to.x}
                y2={-s.to.y}
                onPointerDown={(e) => {
                  const normal = normalAfter(mesh, step, s.facet);
                  if (normal) follow(e, fromTheSide(toTheRight), normal, marks.grab!);
                }}
              />
            ))}
      </g>
      <g stroke={tokens.faint} strokeWidth={0.8 * pixel}>
        {marksAt.map((m) => (
          <g key={m.name}>
            <line x1={left + wide * 0.635} x2={left + wide * 0.665} y1={-m.from} y2={-m.from} />
            <line x1={left + wide * 0.635} x2={left + wide * 0.665} y1={-m.to} y2={-m.to} />
            <line x1={left + wide * 0.65} x2={left + wide * 0.65} y1={-m.from} y2={-m.to} />
          </g>
        ))}
      </g>
      <g fontFamily={faces.figures} fontSize={16 * pixel} fill={tokens.ink}>
        {marksAt.map((m, i) => (
          <text key={m.name} x={left + wide * 0.68} y={lines[i]! + 5.5 * pixel}>
            {m.name} {m.thickness ? spanOf(m.thickness, length!) : length?.(m.to - m.from)}
          </text>
        ))}
      </g>
    </svg>
  );
}

/** Places from top to bottom moved away from the middle one until a line of text fits between. */
function apart(places: number[], line: number): number[] {
  const out = [...places];
  const middle = out.length >> 1;
  for (let i = middle + 1; i < out.length; i++) out[i] = Math.max(out[i]!, out[i - 1]! + line);
  for (let i = middle - 1; i >= 0; i--) out[i] = Math.min(out[i]!, out[i + 1]! - line);
  return out;
}

interface Height {
  name: string;
  from: number;
  to: number;
  /** Of a girdle, whose band from the lowest corner to the highest is no thickness. */
  thickness?: Levels['girdle'];
}

/** A girdle's thickness, from its thinnest place to its thickest where these differ. */
const spanOf = (g: NonNullable<Levels['girdle']>, length: (units: number) => string): string =>
  isUneven(g) ? w.drawing.between(length(g.min), length(g.max)) : length(g.min);

function heights(l: Levels): Height[] {
  const all: Height[] = [
    { name: w.drawing.crown, from: l.girdleHigh, to: l.top },
    { name: w.drawing.girdle, from: l.girdleLow, to: l.girdleHigh, thickness: l.girdle },
    { name: w.drawing.pavilion, from: l.bottom, to: l.girdleLow },
  ];
  return all.filter((m) => m.to - m.from > 1e-6);
}
