import type { Mesh } from '../../api/client';

export type Vec = readonly [number, number, number];

/** The side of a stone that is up. */
export type Side = 'crown' | 'pavilion';

/** Where an eye looks from: the stone's directions that lie right and up on the screen. */
export interface Camera {
  right: Vec;
  up: Vec;
}

export interface Face {
  /** Number of the facet, negative for what is left of the block. */
  facet: number;
  loop: readonly number[];
}

/** A face as it is seen: its corners on the screen and how squarely it faces the eye, 0 to 1. */
export interface VisibleFace {
  facet: number;
  points: string;
  facing: number;
  normal: Vec;
  /** How far its plane stands from the origin. */
  distance: number;
}

export const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** A point as the server tells it. */
export const vec = (p: { x: number; y: number; z: number }): Vec => [p.x, p.y, p.z];

/** The vertex with the given number. */
const vertex = (mesh: Mesh, i: number): Vec => [
  mesh.vertices[3 * i]!,
  mesh.vertices[3 * i + 1]!,
  mesh.vertices[3 * i + 2]!,
];

const subtract = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/**
 * Straight at the side that is up, 12 o'clock at the top. With the pavilion up the stone
 * has been turned over about the line from 12 to 6.
 */
export const lookingAt = (up: Side | Camera): Camera =>
  typeof up === 'string' ? ontoSide[up] : up;

// The same object each time, so that a drawing whose camera stays is not drawn anew.
const ontoSide: Record<Side, Camera> = {
  crown: { right: [1, 0, 0], up: [0, 1, 0] },
  pavilion: { right: [-1, 0, 0], up: [0, 1, 0] },
};

/** From the side, the table at the top, with 12 o'clock or 3 o'clock to the right. */
export const fromTheSide = (toTheRight: 12 | 3): Camera => alongGirdle[toTheRight];

const alongGirdle: Record<12 | 3, Camera> = {
  12: { right: [0, 1, 0], up: [0, 0, 1] },
  3: { right: [1, 0, 0], up: [0, 0, 1] },
};

/** At a point of the stone from straight outside, as near to upright as can be. */
export function lookingFrom(mesh: Mesh, step: number, p: Vec): Camera {
  // The origin may be the culet itself; outside is away from the middle of all corners.
  const corners = facesAfter(mesh, step).flatMap((f) => f.loop.map((i) => vertex(mesh, i)));
  const middle = corners.reduce<Vec>((sum, c) => blend(sum, 1, c, 1 / corners.length), [0, 0, 0]);
  const eye = unit(blend(p, 1, middle, -1));
  const above: Vec = Math.abs(eye[2]) > 0.95 ? [0, 1, 0] : [0, 0, 1];
  const right = unit(cross(above, eye));
  return { right, up: cross(eye, right) };
}

/** Turns a camera by a drag of the stone, in radians to the right and downwards. */
export function turned(camera: Camera, byRight: number, byDown: number): Camera {
  const eye = cross(camera.right, camera.up);
  const right = blend(camera.right, Math.cos(byRight), eye, Math.sin(byRight));
  const eyeAcross = blend(eye, Math.cos(byRight), camera.right, -Math.sin(byRight));
  const up = blend(camera.up, Math.cos(byDown), eyeAcross, -Math.sin(byDown));
  return { right: unit(right), up: unit(up) };
}

/** a·s + b·t. */
export function blend(a: Vec, s: number, b: Vec, t: number): Vec {
  return [a[0] * s + b[0] * t, a[1] * s + b[1] * t, a[2] * s + b[2] * t];
}

/** A direction of length 1. */
export function unit(a: Vec): Vec {
  const length = Math.hypot(...a);
  return [a[0] / length, a[1] / length, a[2] / length];
}

/** The stone's faces after so many steps of its cutting; step 0 is the block. */
export function facesAfter(mesh: Mesh, step: number): Face[] {
  const faces = new Map<number, Face>();
  for (const s of mesh.steps.slice(0, step + 1)) {
    for (const gone of s.gone) faces.delete(gone);
    for (const face of s.set) faces.set(face.facet, face);
  }
  return [...faces.values()];
}

/** The corners of a facet on the finished stone, none where it is gone. */
export function cornersOf(mesh: Mesh, facet: number): Vec[] {
  const face = facesAfter(mesh, lastStep(mesh)).find((f) => f.facet === facet);
  return face ? face.loop.map((i) => vertex(mesh, i)) : [];
}

/** The number of the last step, after which the stone is finished. */
export const lastStep = (mesh: Mesh): number => mesh.steps.length - 1;

/** Puts a point of the stone on the screen, y downwards. */
export function project(camera: Camera, p: Vec): [number, number] {
  return [dot(camera.right, p), -dot(camera.up, p)];
}

/** The faces that look towards the eye. A convex stone needs no sorting: none hides another. */
export function visibleFaces(mesh: Mesh, faces: readonly Face[], camera: Camera): VisibleFace[] {
  const eye = cross(camera.right, camera.up);
  const out: VisibleFace[] = [];
  for (const face of faces) {
    const corners = face.loop.map((i) => vertex(mesh, i));
    const normal = normalOf(corners);
    const facing = dot(normal, eye);
    if (facing < 1e-6) continue;
    const points = corners.map((p) => place(camera, p)).join(' ');
    out.push({ facet: face.facet, facing, normal, points, distance: dot(normal, corners[0]!) });
  }
  return out;
}

function place(camera: Camera, p: Vec): string {
  const [x, y] = project(camera, p);
  return `${x.toFixed(5)},${y.toFixed(5)}`;
}

/** Newell's sum over the corners: right also where three of them lie in a line. */
export function normalOf(corners: readonly Vec[]): Vec {
  const origin = corners[0]!;
  let sum: Vec = [0, 0, 0];
  for (let i = 1; i + 1 < corners.length; i++) {
    sum = blend(sum, 1, cross(subtract(corners[i]!, origin), subtract(corners[i + 1]!, origin)), 1);
  }
  return unit(sum);
}

/** Whether a point lies on a face that is seen. */
export function inSight(faces: readonly VisibleFace[], p: Vec): boolean {
  return faces.some((f) => dot(f.normal, p) > f.distance - 1e-5);
}

/** The point of the stone that is seen at a place on the screen, y downwards; undefined beside it. */
export function pointAt(
  faces: readonly VisibleFace[],
  camera: Camera,
  place: readonly [number, number],
): Vec | undefined {
  return placeAt(faces, camera, place)?.at;
}

/** The same with the facet that the point lies on. */
export function placeAt(
  faces: readonly VisibleFace[],
  camera: Camera,
  [x, y]: readonly [number, number],
): { at: Vec; facet: number } | undefined {
  const there = faces.find((f) => covers(f, x, y));
  if (!there) return undefined;
  const eye = cross(camera.right, camera.up);
  const onScreen = blend(camera.right, x, camera.up, -y);
  const deep = (there.distance - dot(there.normal, onScreen)) / dot(there.normal, eye);
  return { at: blend(onScreen, 1, eye, deep), facet: there.facet };
}

/** Whether a face, which is convex, covers a place on the screen. */
function covers(face: VisibleFace, x: number, y: number): boolean {
  const corners = face.points.split(' ').map((p) => p.split(',').map(Number) as [number, number]);
  const turns = corners.map(([ax, ay], i) => {
    const [bx, by] = corners[(i + 1) % corners.length]!;
    return (bx - ax) * (y - ay) - (by - ay) * (x - ax);
  });
  return turns.every((t) => t <= 0) || turns.every((t) => t >= 0);
}

/** The outward normal of a face that is on the stone after so many steps. */
export function normalAfter(mesh: Mesh, step: number, facet: number): Vec | undefined {
  const face = facesAfter(mesh, step).find((f) => f.facet === facet);
  return face && normalOf(face.loop.map((i) => vertex(mesh, i)));
}

/** The last face of the block that everything is cut from; those of a rough within it come after. */
const lastOfBlock = -6;

/** How far the finished stone reaches from the axis and along it, for framing a drawing. */
export function reachOf(mesh: Mesh): number {
  let reach = reaches.get(mesh);
  if (reach === undefined) reaches.set(mesh, (reach = findReach(mesh)));
  return reach;
}

/** The middle of the finished stone on the screen, y downwards, and how far it reaches from there. */
export function frameOf(mesh: Mesh, camera: Camera): { x: number; y: number; reach: number } {
  const corners = facesAfter(mesh, lastStep(mesh))
    .filter((f) => f.facet >= 0)
    .flatMap((f) => f.loop)
    .map((i) => project(camera, vertex(mesh, i)));
  const middle = (along: 0 | 1) => {
    const all = corners.map((c) => c[along]);
    return (Math.min(...all) + Math.max(...all)) / 2;
  };
  const [x, y] = [middle(0), middle(1)];
  return { x, y, reach: Math.max(...corners.map((c) => Math.hypot(c[0] - x, c[1] - y))) };
}

/** From where to where a mesh of one step goes along the axis. */
export function spanOf(mesh: Mesh): { bottom: number; top: number } {
  const heights = mesh.steps[0]!.set.flatMap((f) => f.loop.map((i) => vertex(mesh, i)[2]));
  return { bottom: Math.min(...heights), top: Math.max(...heights) };
}

const reaches = new WeakMap<Mesh, number>();

function findReach(mesh: Mesh): number {
  const faces = facesAfter(mesh, lastStep(mesh));
  const reach = (of: (facet: number) => boolean) =>
    Math.max(
      0,
      ...faces
        .filter((f) => of(f.facet))
        .flatMap((f) => f.loop)
        .map((i) => Math.hypot(...vertex(mesh, i).slice(0, 2))),
    );
  // A stone that is only begun reaches to the ends of its block: frame its middle, or the rough in it.
  return Math.min(reach((f) => f >= 0) || reach((f) => f < lastOfBlock) || 1, 1.2);
}
