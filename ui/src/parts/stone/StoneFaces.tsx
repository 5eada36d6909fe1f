import { useTheme } from '@mui/material/styles';
import { useMemo } from 'react';
import type { Mesh } from '../../api/client';
import { faces } from '../../theme/tokens';
import { facesAfter, inSight, project, visibleFaces, type Camera, type Vec } from './geometry';
import { follow, type Grab, type RingMark } from './grab';

export interface StoneMarks {
  /** Facets of what is selected. */
  selected?: ReadonlySet<number>;
  /** The facet that is being cut. */
  now?: number;
  /** A point to ring: where the cut runs to. */
  ring?: Vec;
  /** Points to choose from. */
  rings?: readonly RingMark[];
  grab?: Grab;
  /** Where a facet comes in that is held to the lap for a second. */
  touch?: Touch;
}

/** A facet that was held to the lap for a second. */
export interface Touch {
  /** The corners of what is flat by then. */
  patch: readonly Vec[];
  /** A meet before the right one. */
  tempting: Vec | undefined;
}

interface Props extends StoneMarks {
  mesh: Mesh;
  step: number;
  camera: Camera;
  /** Screen units per pixel, so that lines keep their width. */
  pixel: number;
  onPick?: (facet: number) => void;
}

/** The stone's faces as SVG polygons in design units. */
export function StoneFaces(props: Props) {
  const { mesh, step, camera, pixel, selected, now, ring, rings, grab, touch, onPick } = props;
  const { tokens } = useTheme();
  const there = useMemo(() => facesAfter(mesh, step), [mesh, step]);
  const drawn = useMemo(() => visibleFaces(mesh, there, camera), [mesh, there, camera]);
  const fill = (facet: number, facing: number): string => {
    if (facet < 0) return tokens.rough;
    if (facet === now) return tokens.emberWash;
    if (selected?.has(facet)) return tokens.copperWash;
    return mix(tokens.facetDark, tokens.facetLight, facing);
  };
  return (
    <g strokeLinejoin="round">
      {drawn.map((f) => (
        <polygon
          key={f.facet}
          data-facet={f.facet}
          points={f.points}
          fill={fill(f.facet, f.facing)}
          stroke={f.facet < 0 ? tokens.hairline : tokens.ink}
          strokeWidth={(f.facet === now ? 2.5 : f.facet < 0 ? 0.6 : 1) * pixel}
          onClick={onPick && f.facet >= 0 ? () => onPick(f.facet) : undefined}
          {...(grab?.facets.has(f.facet) && {
            'data-grab': '',
            style: { cursor: 'grab', touchAction: 'none' },
            onPointerDown: (e) => follow(e, camera, f.normal, grab),
          })}
        />
      ))}
      {rings
        ?.filter((r) => inSight(drawn, r.at))
        .map((r, i) => (
          <Choice key={i} ring={r} at={project(camera, r.at)} pixel={pixel} />
        ))}
      {touch && (
        <polygon
          data-touch=""
          points={touch.patch.map((p) => project(camera, p).join(',')).join(' ')}
          fill={tokens.emberWash}
          stroke={tokens.ember}
          strokeWidth={2 * pixel}
          strokeDasharray={`${5 * pixel} ${4 * pixel}`}
        />
      )}
      {touch?.tempting && <Cross at={project(camera, touch.tempting)} pixel={pixel} />}
      {ring && <Ring at={project(camera, ring)} pixel={pixel} colour={tokens.ember} />}
    </g>
  );
}

/** A ring that can be chosen, its number beside it. */
function Choice({ ring, at, pixel }: { ring: RingMark; at: [number, number]; pixel: number }) {
  const { tokens } = useTheme();
  const [x, y] = at;
  return (
    <g
      role="button"
      aria-label={ring.label}
      aria-pressed={ring.chosen}
      data-ring={ring.n}
      tabIndex={0}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => {
        e.stopPropagation();
        ring.run();
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        e.stopPropagation();
        ring.run();
      }}
      style={{ cursor: 'pointer' }}
    >
      <title>{ring.label}</title>
      <circle cx={x} cy={y} r={14 * pixel} fill="transparent" />
      <circle
        cx={x}
        cy={y}
        r={(ring.chosen ? 8 : 5) * pixel}
        fill={ring.chosen ? tokens.ember : tokens.sheet}
        stroke={ring.chosen ? tokens.ember : tokens.copper}
        strokeWidth={2 * pixel}
      />
      {ring.n !== undefined && (
        <text
          x={x + 10 * pixel}
          y={y - 7 * pixel}
          fontSize={13 * pixel}
          fontFamily={faces.figures}
          fontWeight={600}
          fill={ring.chosen ? tokens.ember : tokens.copper}
          stroke={tokens.sheet}
          strokeWidth={3 * pixel}
          paintOrder="stroke"
        >
          {ring.n}
        </text>
      )}
    </g>
  );
}

function Ring({ at, pixel, colour }: { at: [number, number]; pixel: number; colour: string }) {
  return (
    <g fill="none" stroke={colour} strokeWidth={3 * pixel}>
      <circle cx={at[0]} cy={at[1]} r={11 * pixel} />
      <circle cx={at[0]} cy={at[1]} r={2 * pixel} fill={colour} stroke="none" />
    </g>
  );
}

/** A meet that the cut must not stop at. */
function Cross({ at: [x, y], pixel }: { at: [number, number]; pixel: number }) {
  const { tokens } = useTheme();
  const r = 7 * pixel;
  return (
    <path
      data-false-meet=""
      d={`M${x - r} ${y - r} l${2 * r} ${2 * r} M${x - r} ${y + r} l${2 * r} ${-2 * r}`}
      stroke={tokens.ink}
      strokeWidth={3 * pixel}
      fill="none"
    />
  );
}

/** Mixes two #rrggbb colours, 0 the first, 1 the second. */
function mix(a: string, b: string, share: number): string {
  const channel = (i: number) => {
    const from = parseInt(a.slice(i, i + 2), 16);
    const to = parseInt(b.slice(i, i + 2), 16);
    return Math.round(from + (to - from) * share);
  };
  return `rgb(${channel(1)},${channel(3)},${channel(5)})`;
}
