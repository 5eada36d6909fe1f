import { expect, test } from 'vitest';
import type { SweptPoint } from '../../api/client';
import { within } from './Limits';
import { mapped } from './MapChoice';

const point = (change: Partial<SweptPoint> = {}): SweptPoint =>
  ({
    no: 0,
    whole: true,
    margin: 2,
    height: 5,
    tableWidth: 0.55,
    return: 0.6,
    window: 0.02,
    headShadow: 0.2,
    leak: 0.1,
    carats: 2.1,
    ...change,
  }) as SweptPoint;

test.each([
  ['a margin', { margin: 2 }, { margin: 2.01 }],
  ['a height', { height: 5 }, { height: 4.99 }],
  ['the least table', { tableFrom: 0.55 }, { tableFrom: 0.56 }],
  ['the largest table', { tableTo: 0.55 }, { tableTo: 0.54 }],
])('%s may be reached and not passed', (_, good, bad) => {
  expect(within(point(), good)).toBe(true);
  expect(within(point(), bad)).toBe(false);
});

test('what is not limited limits nothing, and every limit counts', () => {
  expect(within(point({ margin: -40, height: 400, tableWidth: 0 }), {})).toBe(true);
  expect(within(point(), { margin: 1, height: 5, tableFrom: 0.5, tableTo: 0.54 })).toBe(false);
});

test.each([
  ['return', { return: 0.7 }],
  ['window', { window: 0.01 }],
  ['headShadow', { headShadow: 0.1 }],
  ['leak', { leak: 0 }],
  ['carats', { carats: 2.2 }],
  ['height', { height: 4 }],
] as const)('more light and weight are better, and less of the rest: %s', (of, better) => {
  expect(mapped[of].better(point(better), point())).toBe(true);
  expect(mapped[of].better(point(), point(better))).toBe(false);
  expect(mapped[of].better(point(), point())).toBe(false);
});
