import type { Mesh, Point } from '../../api/client';
import type { StonePlace } from '../../api/rough';
import {
  cross,
  dot,
  facesAfter,
  normalOf,
  type Camera,
  type Vec,
} from '../../parts/stone/geometry';

/** The geometry of a piece of rough on the screen: lengths in mm. */

export const pointOf = (v: Vec): Point => ({ x: v[0], y: v[1], z: v[2] });

/** A direction that the eye can be asked for, of length 1; straight up where there is none. */
export function unitOf(v: Vec): Vec {
  const length = Math.hypot(...v);
  return length > 0 ? [v[0] / length, v[1] / length, v[2] / length] : [0, 0, 1];
}

export const along = (p: Vec, by: number, v: Vec): Vec => [
  p[0] + by * v[0],
  p[1] + by * v[1],
  p[2] + by * v[2],
];

/** The direction from what is seen to the eye. */
export const eyeOf = (camera: Camera): Vec => cross(camera.right, camera.up);

const corner = (mesh: Mesh, i: number): Vec => [
  mesh.vertices[3 * i]!,
  mesh.vertices[3 * i + 1]!,
  mesh.vertices[3 * i + 2]!,
];

/** A finished stone in design units, put where it lies in the piece. */
export function placed(stone: Mesh, { scale, rotation: r, offset }: StonePlace): Mesh {
  const vertices: number[] = [];
  for (let i = 0; i < stone.vertices.length / 3; i++) {
    const v = corner(stone, i);
    for (let k = 0; k < 3; k++)
      vertices.push(
        scale * (r[3 * k]! * v[0] + r[3 * k + 1]! * v[1] + r[3 * k + 2]! * v[2]) + offset[k]!,
      );
  }
  return { ...stone, vertices };
}

/** The camera that looks straight down onto the table of a stone, 12 o'clock at the top. */
export const ontoTable = ({ rotation: r }: StonePlace): Camera => ({
  right: [r[0]!, r[3]!, r[6]!],
  up: [r[1]!, r[4]!, r[7]!],
});

/** The middle of a mesh, and how far its farthest corner lies from there. */
export function extentOf(mesh: Mesh): { middle: Vec; reach: number } {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  mesh.vertices.forEach((v, i) => {
    low[i % 3] = Math.min(low[i % 3]!, v);
    high[i % 3] = Math.max(high[i % 3]!, v);
  });
  const middle = low.map((l, k) => (l + high[k]!) / 2) as unknown as Vec;
  let reach = 0;
  for (let i = 0; i < mesh.vertices.length / 3; i++)
    reach = Math.max(reach, Math.hypot(...along(corner(mesh, i), -1, middle)));
  return { middle, reach };
}

interface Side {
  normal: Vec;
  distance: number;
}

function sidesOf(mesh: Mesh): Side[] {
  return facesAfter(mesh, 0).map(({ loop }) => {
    const corners = loop.map((i) => corner(mesh, i));
    const normal = normalOf(corners);
    return { normal, distance: dot(normal, corners[0]!) };
  });
}

/** The point half-way through a convex solid along a line of sight, undefined where that misses it. */
export function halfWay(mesh: Mesh, from: Vec, eye: Vec): Vec | undefined {
  let near = -Infinity;
  let far = Infinity;
  for (const { normal, distance } of sidesOf(mesh)) {
    const towards = dot(normal, eye);
    const left = distance - dot(normal, from);
    if (Math.abs(towards) < 1e-9) {
      if (left < 0) return undefined;
    } else if (towards > 0) far = Math.min(far, left / towards);
    else near = Math.max(near, left / towards);
  }
  return near < far ? along(from, (near + far) / 2, eye) : undefined;
}

/** The outline in which a plane cuts a convex solid, in order; empty where it misses it. */
export function sectionOf(mesh: Mesh, normal: Vec, distance: number): Vec[] {
  const points: Vec[] = [];
  for (const { loop } of facesAfter(mesh, 0))
    loop.forEach((v, i) => {
      const [a, b] = [corner(mesh, v), corner(mesh, loop[(i + 1) % loop.length]!)];
      const [up, down] = [dot(normal, a) - distance, dot(normal, b) - distance];
      if (up > 0 !== down > 0) points.push(along(a, up / (up - down), along(b, -1, a)));
    });
  if (points.length < 3) return [];
  const middle = middleOf(points)!;
  const u = unitOf(along(points[0]!, -1, middle));
  const v = cross(normal, u);
  const turn = (p: Vec) => Math.atan2(dot(v, along(p, -1, middle)), dot(u, along(p, -1, middle)));
  return points.sort((a, b) => turn(a) - turn(b));
}

/** The middle of some points, undefined where there are none. */
export const middleOf = (points: readonly Vec[]): Vec | undefined =>
  points.length > 0
    ? points.reduce<Vec>((sum, p) => along(sum, 1 / points.length, p), [0, 0, 0])
    : undefined;

/** Points round a disc of a radius, square to a direction. */
export function rimOf(at: Vec, normal: Vec, radius: number): Vec[] {
  const n = unitOf(normal);
  const u = unitOf(cross(n, Math.abs(n[0]) > 0.6 ? [0, 1, 0] : [1, 0, 0]));
  const v = cross(n, u);
  return Array.from({ length: 32 }, (_, i) => {
    const a = (2 * Math.PI * i) / 32;
    return along(along(at, radius * Math.cos(a), u), radius * Math.sin(a), v);
  });
}

/** An edge of a convex solid, between two of its sides. */
export interface Edge {
  from: Vec;
  to: Vec;
  normals: [Vec, Vec];
  /** It bends by more than was asked for. */
  sharp: boolean;
}

/** The edges of a convex solid, and which of them bend by more than so many degrees. */
export function edgesOf(mesh: Mesh, degrees: number): Edge[] {
  const cos = Math.cos((degrees * Math.PI) / 180);
  const open = new Map<string, Vec>();
  const out: Edge[] = [];
  for (const { loop } of facesAfter(mesh, 0)) {
    const normal = normalOf(loop.map((i) => corner(mesh, i)));
    loop.forEach((a, i) => {
      const b = loop[(i + 1) % loop.length]!;
      const other = open.get(`${b} ${a}`);
      if (!other) return void open.set(`${a} ${b}`, normal);
      const normals: [Vec, Vec] = [other, normal];
      out.push({
        from: corner(mesh, a),
        to: corner(mesh, b),
        normals,
        sharp: dot(other, normal) < cos,
      });
    });
  }
  return out;
}
