import { useTheme } from '@mui/material/styles';
import { useMemo } from 'react';
import type { Mesh } from '../../api/client';
import type { Trim } from '../../api/rough';
import {
  cross,
  dot,
  facesAfter,
  project,
  vec,
  visibleFaces,
  type Camera,
  type Vec,
} from '../../parts/stone/geometry';
import { edgesOf, extentOf, sectionOf, unitOf, type Edge } from './space';

/** From how many degrees on an edge of a piece is sharp: what bends less is round. */
const sharp = 14;

/** The same for a small drawing, which takes fewer corners. */
const sharpSmall = 36;

/** Up to how many edges those that are not sharp are hinted at. */
const hinted = 600;

export const pointsOf = (camera: Camera, points: readonly Vec[]): string =>
  points
    .map((p) => project(camera, p))
    .map(([x, y]) => `${x.toFixed(4)},${y.toFixed(4)}`)
    .join(' ');

interface Props {
  /** What is left of the piece, and what it was before the saw where that is more. */
  kept: Mesh;
  whole?: Mesh;
  /** A stone in its place, or stones. */
  stone?: Mesh | readonly Mesh[];
  camera: Camera;
  /** How many mm a pixel is, so that lines keep their width. */
  pixel: number;
  /** Drawn small: only what is plain to see. */
  small?: boolean;
}

/** A piece of rough that one can look into, with a stone in it. A convex solid needs no sorting. */
export function PieceDrawn({ kept, whole, stone, camera, pixel, small = false }: Props) {
  const { tokens } = useTheme();
  const behind = useMemo<Camera>(
    () => ({ right: camera.right.map((c) => -c) as unknown as Vec, up: camera.up }),
    [camera],
  );
  const faces = useMemo(() => facesAfter(kept, 0), [kept]);
  const front = useMemo(() => visibleFaces(kept, faces, camera), [kept, faces, camera]);
  const back = useMemo(() => visibleFaces(kept, faces, behind), [kept, faces, behind]);
  const ghost = useMemo(
    () => (whole ? visibleFaces(whole, facesAfter(whole, 0), camera) : []),
    [whole, camera],
  );
  const cut = useMemo(
    () =>
      [stone ?? []].flat().flatMap((one, i) =>
        visibleFaces(one, facesAfter(one, 0), camera).map((f) => ({
          ...f,
          key: `s${i} ${f.facet}`,
        })),
      ),
    [stone, camera],
  );
  const edges = useMemo(() => edgesOf(kept, small ? sharpSmall : sharp), [kept, small]);
  const eye = cross(camera.right, camera.up);
  return (
    <g strokeLinejoin="round" strokeLinecap="round">
      {ghost.map((f) => (
        <polygon
          key={`w${f.facet}`}
          points={f.points}
          fill="none"
          stroke={tokens.hairline}
          strokeWidth={pixel}
          strokeDasharray={`${3 * pixel} ${4 * pixel}`}
        />
      ))}
      {/* The far side, seen from behind, is mirrored back. */}
      <g transform="scale(-1 1)">
        {back.map((f) => (
          <polygon key={`b${f.facet}`} points={f.points} fill={tokens.rough} fillOpacity={0.55} />
        ))}
      </g>
      <Edges edges={edges} camera={camera} seen={(e) => !facesEye(e, eye)} width={pixel} far />
      {cut.map((f) => (
        <polygon
          key={f.key}
          points={f.points}
          fill={tokens.copperWash}
          stroke={tokens.copper}
          strokeWidth={0.8 * pixel}
        />
      ))}
      {front.map((f) => (
        <polygon
          key={`f${f.facet}`}
          points={f.points}
          fill={tokens.facetLight}
          fillOpacity={0.05 + 0.4 * f.facing ** 3}
        />
      ))}
      <Edges
        edges={edges}
        camera={camera}
        seen={(e) => facesEye(e, eye)}
        width={1.2 * pixel}
        hints={!small && edges.length < hinted}
      />
    </g>
  );
}

/** Whether an edge lies on the side that is seen, its outline included. */
const facesEye = (e: Edge, eye: Vec): boolean =>
  dot(e.normals[0], eye) > 0 || dot(e.normals[1], eye) > 0;

/** Edges as lines: those that are sharp, and those that are the outline from here. */
function Edges(props: {
  edges: readonly Edge[];
  camera: Camera;
  seen: (e: Edge) => boolean;
  width: number;
  far?: boolean;
  /** Edges that are not sharp are hinted at. */
  hints?: boolean;
}) {
  const { edges, camera, seen, width, far = false, hints = false } = props;
  const { tokens } = useTheme();
  const eye = cross(camera.right, camera.up);
  const there = edges.filter(seen);
  const strong = (e: Edge) => e.sharp || dot(e.normals[0], eye) > 0 !== dot(e.normals[1], eye) > 0;
  const line = (list: readonly Edge[]) =>
    list.map((e) => `M${pointsOf(camera, [e.from])}L${pointsOf(camera, [e.to])}`).join('');
  return (
    <>
      {hints && (
        <path
          d={line(there.filter((e) => !strong(e)))}
          fill="none"
          stroke={tokens.hairline}
          strokeWidth={0.7 * width}
        />
      )}
      <path
        d={line(there.filter(strong))}
        fill="none"
        stroke={far ? tokens.hairline : tokens.ink}
        strokeWidth={width}
      />
    </>
  );
}

/** A piece drawn small, with a stone in it where there is one. */
export function PieceSmall({
  kept,
  stone,
  camera,
  height,
  saw,
  zoom,
}: Pick<Props, 'kept' | 'stone' | 'camera'> & {
  height: number;
  /** A saw cut through it. */
  saw?: Trim;
  /** How much nearer the stone is looked at, which is then in the middle. */
  zoom?: number;
}) {
  const { tokens } = useTheme();
  const { middle, reach } = extentOf(kept);
  const half = (1.05 * reach) / (zoom ?? 1);
  const [x, y] = project(
    camera,
    zoom && stone && 'vertices' in stone ? extentOf(stone).middle : middle,
  );
  return (
    <svg
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      width="100%"
      height={height}
      aria-hidden
      style={{ display: 'block' }}
    >
      <g transform={`translate(${-x} ${-y})`}>
        <PieceDrawn kept={kept} stone={stone} camera={camera} pixel={(2 * half) / height} small />
        {saw && (
          <polygon
            points={pointsOf(camera, sectionOf(kept, unitOf(vec(saw.normal)), saw.distance))}
            fill={tokens.emberWash}
            fillOpacity={0.45}
            stroke={tokens.ember}
            strokeWidth={(2 * half) / height}
          />
        )}
      </g>
    </svg>
  );
}
