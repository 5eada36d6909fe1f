import type { Levels, Mesh } from '../../api/client';
import type { Damage } from '../../api/recuts';
import {
  blend,
  cornersOf,
  dot,
  facesAfter,
  lastStep,
  normalAfter,
  reachOf,
  unit,
  type Side,
  type Vec,
} from '../../parts/stone/geometry';

/** A damage as it is marked on a stone: points on its surface in design units, each with the way in. */
export interface Mark {
  kind: 'chip' | 'edge' | 'face';
  points: readonly { at: Vec; inward: Vec }[];
  /** How deep it goes from there, in mm. */
  depth: number;
}

/** Usual depths of damages, in mm. */
const usual = { chip: 0.2, edge: 0.05, face: 0.02 };

/** As near to a plane, in shares of the stone's reach, a point lies at that facet too. */
const near = 0.02;

/** A chip at a point: at an edge or a corner it goes in between all facets there. */
export function chipAt(mesh: Mesh, at: Vec): Mark {
  const step = lastStep(mesh);
  const normals = facesAfter(mesh, step).flatMap(({ facet }) => {
    const n = normalAfter(mesh, step, facet)!;
    return dot(n, blend(cornersOf(mesh, facet)[0]!, 1, at, -1)) < near * reachOf(mesh) ? [n] : [];
  });
  return { kind: 'chip', points: [{ at, inward: into(normals) }], depth: usual.chip };
}

/** Another point of a damage. */
export const withPoint = (mark: Mark, mesh: Mesh, at: Vec): Mark => ({
  ...mark,
  points: [...mark.points, ...chipAt(mesh, at).points],
});

/** The edge of a facet that lies nearest to a point, from end to end. */
export function edgeAt(mesh: Mesh, at: Vec, facet: number): Mark {
  const step = lastStep(mesh);
  const faces = facesAfter(mesh, step);
  const edges = edgesOf(faces.find((f) => f.facet === facet)!.loop);
  const corner = (i: number): Vec => [
    mesh.vertices[3 * i]!,
    mesh.vertices[3 * i + 1]!,
    mesh.vertices[3 * i + 2]!,
  ];
  const far = edges.map(([a, b]) => distance(at, corner(a), corner(b)));
  const [a, b] = edges[far.indexOf(Math.min(...far))]!;
  const beside = faces.find((f) => edgesOf(f.loop).some(([c, d]) => c === b && d === a));
  const normals = [facet, beside?.facet ?? facet].map((f) => normalAfter(mesh, step, f)!);
  const inward = into(normals);
  return {
    kind: 'edge',
    points: [corner(a), corner(b)].map((end) => ({ at: end, inward })),
    depth: usual.edge,
  };
}

/** A whole facet. */
export function faceAt(mesh: Mesh, facet: number): Mark {
  const inward = into([normalAfter(mesh, lastStep(mesh), facet)!]);
  return {
    kind: 'face',
    // A damage has up to a dozen points: those of a facet with more corners span it all the same.
    points: spread(cornersOf(mesh, facet), 12).map((at) => ({ at, inward })),
    depth: usual.face,
  };
}

/** What has to go, in mm; a unit of the mesh is so many. */
export const damageOf = (mark: Mark, mm: number, clearance: number): Damage => ({
  points: mark.points.map(({ at, inward }) => {
    const [x, y, z] = blend(at, mm, inward, mark.depth);
    return { x, y, z };
  }),
  clearance,
});

/** The side that most of the damage is on, of several. */
export function sideOf(marks: readonly Mark[], levels: Levels): Side {
  const middle = levels.hasGirdle
    ? (levels.girdleLow + levels.girdleHigh) / 2
    : (levels.bottom + levels.top) / 2;
  const points = marks.flatMap((m) => m.points);
  const above = points.filter(({ at }) => at[2] >= middle).length;
  return 2 * above >= points.length ? 'crown' : 'pavilion';
}

const edgesOf = (loop: readonly number[]): [number, number][] =>
  loop.map((v, i) => [v, loop[(i + 1) % loop.length]!]);

/** The way in between facets. */
const into = (normals: readonly Vec[]): Vec =>
  blend(unit(normals.reduce((sum, n) => blend(sum, 1, n, 1), [0, 0, 0])), -1, [0, 0, 0], 0);

/** How far a point lies from a stretch. */
function distance(p: Vec, a: Vec, b: Vec): number {
  const ab = blend(b, 1, a, -1);
  const along = dot(blend(p, 1, a, -1), ab) / dot(ab, ab);
  return Math.hypot(...blend(p, 1, blend(a, 1, ab, Math.min(1, Math.max(0, along))), -1));
}

/** So many of a list at most, spread over it. */
const spread = <T>(list: readonly T[], most: number): readonly T[] =>
  list.length <= most
    ? list
    : list.filter(
        (_, i) =>
          Math.floor((i * most) / list.length) !== Math.floor(((i - 1) * most) / list.length),
      );
