import { useTheme } from '@mui/material/styles';
import { useMemo } from 'react';
import type { Mesh } from '../../api/client';
import { facesAfter, project, seen, type Camera, type Vec } from './geometry';

export interface StoneMarks {
  /** Facets of what is selected. */
  selected?: ReadonlySet<number>;
  /** The facet that is being cut. */
  now?: number;
  /** A point to ring: where the cut runs to. */
  ring?: Vec;
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
export function StoneFaces({ mesh, step, camera, pixel, selected, now, ring, onPick }: Props) {
  const { tokens } = useTheme();
  const faces = useMemo(() => facesAfter(mesh, step), [mesh, step]);
  const drawn = useMemo(() => seen(mesh, faces, camera), [mesh, faces, camera]);
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
        />
      ))}
      {ring && <Ring at={project(camera, ring)} pixel={pixel} colour={tokens.ember} />}
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

/** Mixes two #rrggbb colours, 0 the first, 1 the second. */
function mix(a: string, b: string, share: number): string {
  const channel = (i: number) => {
    const from = parseInt(a.slice(i, i + 2), 16);
    const to = parseInt(b.slice(i, i + 2), 16);
    return Math.round(from + (to - from) * share);
  };
  return `rgb(${channel(1)},${channel(3)},${channel(5)})`;
}
