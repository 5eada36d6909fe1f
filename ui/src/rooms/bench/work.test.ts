import { expect, test } from 'vitest';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { w } from '../../words/words';
import { cutSoFar, lastCut, moves, ticked } from './work';

const visit = (facet: number, roundEnd: number, blockEnd: number, move = {}) => ({
  setup: 's1',
  pass: 'cut',
  facet,
  roundEnd,
  blockEnd,
  move: { first: false, pass: false, from: null, teeth: 0, ...move },
});

const script = {
  passes: [{ id: 'cut', name: 'Cut', lap: '600', compound: '' }],
  setups: [{ id: 's1', up: 'pavilion' }],
  facets: [96, 48, 24].map((tooth) => ({ dial: { tooth }, reading: 41.5 })),
  visits: [
    visit(0, 2, 3, { first: true }),
    visit(1, 2, 3, { teeth: 48 }),
    visit(2, 3, 3, { pass: true, from: 42, teeth: -24 }),
  ],
} as unknown as BenchScript;

const standing = (at: number, done: number[] = []) =>
  ({
    at,
    visited: script.visits.map((_, i) =>
      done.includes(i) ? { n: i + 1, kind: 'done' } : undefined,
    ),
  }) as BenchState;

test('Done ticks what is open of the facet, the round or the tier', () => {
  expect(ticked(script, standing(0), 'facet')).toEqual([0]);
  expect(ticked(script, standing(0), 'round')).toEqual([0, 1]);
  expect(ticked(script, standing(0), 'tier')).toEqual([0, 1, 2]);
  // What was caught up already is not ticked again.
  expect(ticked(script, standing(0, [1]), 'tier')).toEqual([0, 2]);
  expect(ticked(script, standing(3), 'tier')).toEqual([]);
});

test('the move to a facet is told as people say it, and nothing is told that stays', () => {
  expect(moves(script, standing(0), 0)).toEqual([w.bench.first]);
  expect(moves(script, standing(1, [0]), 1)).toEqual(['+48 → 48']);
  expect(moves(script, standing(2, [0, 1]), 2)).toEqual([
    'change to Cut · 600',
    'protractor from 42° to 41.5°',
    '−24 → 24',
  ]);
  // The hand comes from elsewhere: a facet that was cut later, or none at all.
  expect(moves(script, standing(1, [0, 2]), 1)).toEqual([w.bench.setAnew]);
  expect(moves(script, standing(2), 2)).toEqual([w.bench.setAnew]);
});

test('a mishap can be of any facet that was cut, and most likely is of the last', () => {
  expect(lastCut(standing(0))).toBeUndefined();
  expect(lastCut(standing(1, [0, 2]))).toBe(2);
  expect(cutSoFar(standing(1, [0, 2]), undefined)).toEqual([0, 2]);
  expect(cutSoFar(standing(1, [0]), 1)).toEqual([0, 1]);
});
