import { expect, test } from 'vitest';
import { cube } from '../../testing/cube';
import { dot, project, type Vec } from '../../parts/stone/geometry';
import { edgesOf, extentOf, halfWay, ontoTable, placed, rimOf, sectionOf, unitOf } from './space';

const near = (got: Vec | undefined, want: Vec) =>
  want.forEach((c, k) => expect(got?.[k]).toBeCloseTo(c, 9));

test('a stone is put where it lies, and is seen from its table the right way round', () => {
  // A quarter turn about x: the table looks along −y.
  const place = { scale: 2, rotation: [1, 0, 0, 0, 0, -1, 0, 1, 0], offset: [5, 6, 7] };
  const there = placed(cube, place);
  // The corner (−1, −1, 1) of the cube.
  near(there.vertices.slice(24, 27) as unknown as Vec, [3, 4, 5]);
  const camera = ontoTable(place);
  // What was at 12 o'clock is up on the screen, what was at 3 o'clock to the right.
  expect(project(camera, [0, 0, 1])[1]).toBeLessThan(0);
  expect(project(camera, [1, 0, 0])[0]).toBeGreaterThan(0);
});

test('a line of sight is halved by the solid, or misses it', () => {
  near(halfWay(cube, [0.3, -0.4, 9], [0, 0, 1]), [0.3, -0.4, 0]);
  const eye = unitOf([1, 0, 1]);
  near(halfWay(cube, [0.5, 0, 0.5], eye), [0, 0, 0]);
  near(halfWay(cube, [0.5, 0.2, 0], eye), [0.25, 0.2, -0.25]);
  expect(halfWay(cube, [1.2, 0, 0], [0, 0, 1])).toBeUndefined();
});

test('a plane cuts the solid in an outline that goes round once', () => {
  const outline = sectionOf(cube, unitOf([1, 1, 1]), 0);
  // Each edge that is crossed belongs to two faces.
  expect(outline).toHaveLength(12);
  for (const p of outline) expect(p[0] + p[1] + p[2]).toBeCloseTo(0, 9);
  expect(sectionOf(cube, [0, 0, 1], 1.5)).toEqual([]);
  const { middle, reach } = extentOf(cube);
  near(middle, [0, 0, 0]);
  expect(reach).toBeCloseTo(Math.sqrt(3), 9);
});

test('a disc is drawn square to its normal, and edges are told from what is round', () => {
  const n = unitOf([1, 2, 3]);
  for (const p of rimOf([1, 1, 1], n, 2)) {
    const out: Vec = [p[0] - 1, p[1] - 1, p[2] - 1];
    expect(dot(out, n)).toBeCloseTo(0, 9);
    expect(Math.hypot(...out)).toBeCloseTo(2, 9);
  }
  expect(edgesOf(cube, 80).filter((e) => e.sharp)).toHaveLength(12);
  expect(edgesOf(cube, 100).filter((e) => e.sharp)).toHaveLength(0);
});
