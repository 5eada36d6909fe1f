import { expect, test } from 'vitest';
import { cube } from '../../testing/cube';
import { cornersOf, normalAfter, lastStep, type Vec } from '../../parts/stone/geometry';
import { chipAt, damageOf, edgeAt, faceAt, sideOf, withPoint } from './marks';

const top = 0;
const corners = cornersOf(cube, top);
const middle = corners.reduce<Vec>(
  (sum, c) => [sum[0] + c[0] / 4, sum[1] + c[1] / 4, sum[2] + c[2] / 4],
  [0, 0, 0],
);
const up = normalAfter(cube, lastStep(cube), top)!;

test('a chip goes straight in from the middle of a facet, and between all facets at a corner', () => {
  const flat = chipAt(cube, middle);
  expect(flat.points[0]!.inward.map((v, i) => Math.abs(v + up[i]!) < 1e-9)).toEqual([
    true,
    true,
    true,
  ]);
  const corner = chipAt(cube, corners[0]!);
  const length = Math.hypot(...corner.points[0]!.inward);
  expect(length).toBeCloseTo(1, 9);
  expect(Math.abs(corner.points[0]!.inward[2])).toBeLessThan(0.99);
  expect(withPoint(flat, cube, corners[0]!).points).toHaveLength(2);
});

test('an edge is taken from end to end, a facet by its corners, both in mm as deep as they go', () => {
  const edge = edgeAt(cube, corners[0]!, top);
  expect(edge.points).toHaveLength(2);
  expect(edge.points.map((p) => p.at)).toContainEqual(corners[0]);
  const face = faceAt(cube, top);
  expect(face.points).toHaveLength(4);
  const damage = damageOf({ ...face, depth: 0.1 }, 5, 0.02);
  expect(damage.clearance).toBe(0.02);
  damage.points.forEach((p, i) => {
    expect(p.z).toBeCloseTo(5 * corners[i]![2] - 0.1 * up[2], 9);
    expect(p.x).toBeCloseTo(5 * corners[i]![0] - 0.1 * up[0], 9);
  });
});

test('the side that has most of the damage is cut first', () => {
  const levels = {
    bottom: -1,
    top: 1,
    girdleLow: -0.1,
    girdleHigh: 0.1,
    hasGirdle: true,
    girdle: null,
  };
  const at = (z: number) => ({
    kind: 'chip' as const,
    points: [{ at: [0, 0, z] as Vec, inward: [0, 0, -1] as Vec }],
    depth: 0.1,
  });
  expect(sideOf([at(0.5)], levels)).toBe('crown');
  expect(sideOf([at(-0.5), at(-0.4), at(0.5)], levels)).toBe('pavilion');
});
