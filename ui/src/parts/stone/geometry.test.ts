import { expect, test } from 'vitest';
import { cube } from '../../testing/cube';
import {
  cross,
  dot,
  facesAfter,
  frameOf,
  fromTheSide,
  inSight,
  lookingAt,
  lookingFrom,
  normalAfter,
  pointAt,
  project,
  reachOf,
  turned,
  visibleFaces,
  type Vec,
} from './geometry';

const close = (a: readonly number[], b: readonly number[]) =>
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 9));

test('a place on the screen is the point of the face that is seen there', () => {
  const seen = (step: number, side: 'crown' | 'pavilion', at: [number, number]) =>
    pointAt(visibleFaces(cube, facesAfter(cube, step), lookingAt(side)), lookingAt(side), at);
  close(seen(1, 'crown', [0.25, -0.5])!, [0.25, 0.5, 0.5]);
  close(seen(1, 'pavilion', [0.25, -0.5])!, [-0.25, 0.5, -1]);
  expect(seen(1, 'crown', [1.5, 0])).toBeUndefined();
  const aside = turned(lookingAt('crown'), 0.4, 0.3);
  const drawn = visibleFaces(cube, facesAfter(cube, 1), aside);
  const p: Vec = [0.5, -0.25, 0.5];
  close(pointAt(drawn, aside, project(aside, p))!, p);
});

test('a side that is up shows 12 o’clock at the top and its own 3 o’clock at the right', () => {
  close(project(lookingAt('crown'), [0, 1, 0]), [0, -1]);
  close(project(lookingAt('crown'), [1, 0, 0]), [1, 0]);
  // Turned over about 12 to 6, the stone's 3 o'clock lies at the left.
  close(project(lookingAt('pavilion'), [0, 1, 0]), [0, -1]);
  close(project(lookingAt('pavilion'), [1, 0, 0]), [-1, 0]);
  close(project(fromTheSide(3), [0, 0, 1]), [0, -1]);
  close(project(fromTheSide(12), [0, 1, 0]), [1, 0]);
});

test('what looks away is left out, and a step takes away what it cuts', () => {
  const facets = (step: number, side: 'crown' | 'pavilion') =>
    visibleFaces(cube, facesAfter(cube, step), lookingAt(side)).map((f) => f.facet);
  expect(facets(0, 'crown')).toEqual([-2]);
  expect(facets(1, 'crown')).toEqual([0]);
  expect(facets(1, 'pavilion')).toEqual([-1]);
  const [top] = visibleFaces(cube, facesAfter(cube, 1), lookingAt('crown'));
  close(top!.normal, [0, 0, 1]);
  expect(top!.distance).toBeCloseTo(0.5);
  expect(inSight([top!], [0, 0, 0.5])).toBe(true);
  expect(inSight([top!], [0, 0, 0.4])).toBe(false);
  expect(normalAfter(cube, 0, 0)).toBeUndefined();
  close(normalAfter(cube, 1, 0)!, [0, 0, 1]);
});

test('a drag turns the stone under the finger, and back again', () => {
  const start = lookingAt('crown');
  let camera = start;
  for (let i = 0; i < 40; i++) camera = turned(turned(camera, 0.3, -0.2), -0.1, 0.05);
  expect(Math.hypot(...camera.right)).toBeCloseTo(1, 9);
  expect(dot(camera.right, camera.up)).toBeCloseTo(0, 6);
  // What faces the eye goes with the finger: to the right, and down.
  const front: Vec = [0, 0, 1];
  expect(project(turned(start, 0.1, 0), front)[0]).toBeGreaterThan(0);
  expect(project(turned(start, 0, 0.1), front)[1]).toBeGreaterThan(0);
  const back = turned(turned(start, 0.4, 0), -0.4, 0);
  close(back.right, start.right);
});

test('a place is looked at from outside, upright where that can be', () => {
  const corner: Vec = [1, 1, 0.5];
  const camera = lookingFrom(cube, 1, corner);
  const eye = cross(camera.right, camera.up);
  expect(dot(eye, corner)).toBeGreaterThan(0.9);
  expect(project(camera, [0, 0, 1])[1]).toBeLessThan(0);
  // Straight from above there is no upright: 12 o'clock is at the top.
  close(lookingFrom(cube, 1, [0, 0, 5]).up, [0, 1, 0]);
});

test('a drawing is framed by the facets, a stone that is only begun by the middle of its block', () => {
  expect(reachOf(cube)).toBe(1.2);
  const block = { ...cube, steps: cube.steps.slice(0, 1) };
  expect(reachOf(block)).toBe(1);
});

test('a solid is framed about the middle of what is seen, not about the axis', () => {
  const [x, y, reach] = [0, 0.25, Math.hypot(1, 0.75)];
  // The top is cut down to half its height above the axis.
  expect(frameOf({ ...cube, steps: allCut }, fromTheSide(3))).toEqual({ x, y, reach });
});

/** The cube with all its faces as facets. */
const allCut = cube.steps.map((s) => ({
  ...s,
  set: s.set.map((f) => ({ ...f, facet: f.facet + 10 })),
  gone: s.gone.map((g) => g + 10),
}));
