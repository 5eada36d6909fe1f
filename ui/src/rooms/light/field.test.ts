import { expect, test } from 'vitest';
import type { SweepLine, SweptPoint } from '../../api/client';
import { draftOf, tierOf } from '../../testing/records';
import { after, placeText } from './field';

const axis = (kind: 'pavilion' | 'crown' | 'tier', tier = 0) => ({
  kind,
  tier,
  from: 0.9,
  to: 1.1,
  steps: 2,
});

const lineOf = (change: Partial<SweepLine>): SweepLine =>
  ({ done: 0, total: 4, ended: '', points: [], presentX: 1, presentY: 1, ...change }) as SweepLine;

const point = (no: number) => ({ no, x: 1, y: 42.5, whole: true }) as SweptPoint;

const first = lineOf({
  asked: {
    draft: draftOf({ tiers: [tierOf(), tierOf({ key: 't2', name: 'C1', part: 'crown' })] }),
    material: 'Quartz',
    refractiveIndex: 1.54,
    tint: '',
    width: 8,
    model: 'head',
    headAngle: 16,
    frostedGirdle: false,
    x: axis('pavilion'),
    y: axis('tier', 1),
  },
});

test('points come in any order and stand in their own places', () => {
  const lines = [
    first,
    lineOf({ done: 2, points: [point(3), point(0)] }),
    lineOf({ done: 3, points: [point(1)] }),
  ];
  const sweep = lines.reduce<ReturnType<typeof after> | undefined>(after, undefined)!;
  expect(sweep.field.points.map((p) => p?.no)).toEqual([0, 1, undefined, 3]);
  expect(sweep).toMatchObject({ done: 3, total: 4, field: { id: undefined, tiers: ['P1', 'C1'] } });
  expect(sweep.field.lighting).toMatchObject({ material: 'Quartz', refractiveIndex: 1.54 });
});

test('a line leaves the field before it as it was', () => {
  const before = after(undefined, first);
  after(before, lineOf({ points: [point(0)] }));
  expect(before.field.points[0]).toBeUndefined();
});

test('a sweep that is told from its start again begins empty', () => {
  const full = after(after(undefined, first), lineOf({ points: [point(0), point(1)] }));
  expect(after(full, first).field.points.every((p) => p === undefined)).toBe(true);
});

test('once it is kept it has a name, and tells whether the diagram was changed since', () => {
  const kept = { id: 's1', changed: true } as SweepLine['kept'];
  const sweep = after(after(undefined, first), lineOf({ done: 4, ended: 'complete', kept }));
  expect(sweep.field).toMatchObject({ id: 's1', moved: true });
});

test('a place is told by its sides and tiers', () => {
  const { field } = after(undefined, first);
  expect(placeText(field, point(0))).toMatch(/^pavilion.* 1\.000, C1 42\.5°$/i);
});
