import { useTheme } from '@mui/material/styles';
import { memo, useId, type MouseEvent } from 'react';
import type { Dial, Levels, Mesh, Tooth } from '../../api/client';
import { faces } from '../../theme/tokens';
import {
  facesAfter,
  frameOf,
  lastStep,
  lookingAt,
  pointAt,
  reachOf,
  visibleFaces,
  type Camera,
  type Side,
  type Vec,
} from './geometry';
import { StoneFaces, type StoneMarks } from './StoneFaces';
import { ThinnestMark } from './ThinnestMark';

interface Props extends StoneMarks {
  mesh: Mesh;
  /** The moment of the cutting; the finished stone where it is left out. */
  step?: number;
  /** What faces the eye: a side, or how it is seen. */
  up: Side | Camera;
  /** The teeth round the stone; none where it is left out. */
  wheel?: readonly Tooth[];
  /** Marks where an uneven girdle is thinnest. */
  girdle?: Levels['girdle'];
  /** Positions to light: the selected tier's, or the one to dial now. */
  lit?: readonly Dial[];
  /** The one lit position to dial now. */
  current?: Dial;
  label: string;
  /** Drawing units per pixel, for lines and numbers: larger where the drawing is small. */
  pixel?: number;
  onPick?: (facet: number) => void;
  /** A point of the stone was tapped. */
  onPoint?: (point: Vec) => void;
}

// Lists that stay the same: a new one would draw the numbers anew.
const noTeeth: readonly Tooth[] = [];
const noDials: readonly Dial[] = [];

/** Radii of the wheel in a drawing 200 wide. */
const rim = 96;
const root = 89;
const stoneRadius = 72;

/** The signature drawing: the stone inside its index wheel, the side that is up towards the eye. */
export function StoneInWheel({
  mesh,
  step = lastStep(mesh),
  up,
  wheel = noTeeth,
  girdle = null,
  lit = noDials,
  current,
  label,
  pixel = 0.35,
  onPick,
  onPoint,
  ...marks
}: Props) {
  const { tokens } = useTheme();
  const clip = useId();
  const camera: Camera = lookingAt(up);
  // With a side up the wheel turns about the diagram's axis; a solid is held by the middle of a face.
  const frame = typeof up === 'string' ? { x: 0, y: 0, reach: reachOf(mesh) } : frameOf(mesh, up);
  const scale = stoneRadius / frame.reach;
  // Without a wheel the stone and the numbers beside it have the room to themselves.
  const [half, sight] = wheel.length > 0 ? [100, stoneRadius + 8] : [92, 92];
  return (
    <svg
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      role={marks.rings ? 'group' : 'img'}
      aria-label={label}
      width="100%"
      height="100%"
    >
      <clipPath id={clip}>
        <circle r={sight} />
      </clipPath>
      <Rim teeth={wheel.length} />
      <g clipPath={`url(#${clip})`}>
        <g
          transform={`scale(${scale}) translate(${-frame.x} ${-frame.y})`}
          style={onPoint && { cursor: 'crosshair' }}
          onClick={(e) => onPoint && tapped(e, mesh, step, camera, onPoint)}
        >
          <StoneFaces
            mesh={mesh}
            step={step}
            camera={camera}
            pixel={pixel / scale}
            onPick={onPick}
            {...marks}
          />
          <ThinnestMark girdle={girdle} camera={camera} pixel={pixel / scale} />
        </g>
      </g>
      <Numbers wheel={wheel} />
      {lit.map((d, i) => (
        <Light key={i} dial={d} colour={tokens.copper} />
      ))}
      {current && <Light dial={current} colour={tokens.ember} large />}
    </svg>
  );
}

/** Tells which point of the stone was tapped. */
function tapped(
  e: MouseEvent<SVGGElement>,
  mesh: Mesh,
  step: number,
  camera: Camera,
  tell: (point: Vec) => void,
) {
  const matrix = e.currentTarget.getScreenCTM()?.inverse();
  if (!matrix) return;
  const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
  const point = pointAt(visibleFaces(mesh, facesAfter(mesh, step), camera), camera, [at.x, at.y]);
  if (point) tell(point);
}

/** The ring of teeth. It stays while only the stone inside it changes. */
const Rim = memo(function Rim({ teeth }: { teeth: number }) {
  const { tokens } = useTheme();
  if (teeth === 0) return null;
  return (
    <path d={gearPath(teeth)} fill={tokens.sheet} stroke={tokens.hairline} strokeWidth={0.4} />
  );
});

/** The numbers of its labelled teeth. */
const Numbers = memo(
  function Numbers({ wheel }: { wheel: readonly Tooth[] }) {
    const { tokens } = useTheme();
    return (
      <g fontFamily={faces.figures} fontSize={4.6} textAnchor="middle" fill={tokens.faint}>
        {wheel
          .filter((t) => t.labelled)
          .map((t) => {
            const [x, y] = onCircle(t.azimuth, root - 4.4);
            return (
              <text key={t.index} x={x} y={y + 1.6}>
                {t.index}
              </text>
            );
          })}
      </g>
    );
  },
  (a, b) => a.wheel.length === b.wheel.length,
);

function Light({ dial, colour, large }: { dial: Dial; colour: string; large?: boolean }) {
  const width = large ? 4.5 : 2.6;
  return (
    <g transform={`rotate(${dial.azimuth})`}>
      <path d={`M0 ${-root + 1} l${-width} ${-9} h${2 * width} z`} fill={colour} />
      {large && (
        <path
          d={`M0 ${-root + 11} V${-stoneRadius + 10}`}
          stroke={colour}
          strokeWidth={0.8}
          strokeDasharray="2 2"
        />
      )}
    </g>
  );
}

function onCircle(azimuth: number, radius: number): [number, number] {
  const a = (azimuth * Math.PI) / 180;
  return [radius * Math.sin(a), -radius * Math.cos(a)];
}

/** The outline of a ring of teeth, one of them at the top. */
function gearPath(teeth: number): string {
  const step = 360 / teeth;
  const points: string[] = [];
  for (let i = 0; i < teeth; i++) {
    for (const [offset, radius] of [
      [-0.36, root],
      [-0.2, rim],
      [0.2, rim],
      [0.36, root],
    ] as const) {
      points.push(
        onCircle((i + offset) * step, radius)
          .map((v) => v.toFixed(2))
          .join(' '),
      );
    }
  }
  return `M${points.join('L')}Z`;
}
