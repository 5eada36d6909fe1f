import { expect, test } from 'vitest';
import type { BenchScript } from '../../api/client';
import type { LogEvent } from '../../log/events';
import { fold } from '../../log/fold';
import fixtures from '../../log/standing.fixtures.json';
import { standingOf, visitOf } from '../../log/standing';
import { onwards, repeats } from './order';
import { fitting, leftOf, nextTime } from './time';

/** Tiers P1 (two facets), G1, P2 and P3 in two passes, then the other side. */
const script = {
  facets: fixtures.facets.map((id, i) => ({
    id,
    tier: ['P1', 'P1', 'G1', 'P2', 'P3', 'C1', 'C1', 'T'][i],
  })),
  visits: fixtures.visits.map((v, i) => ({
    ...v,
    minutes: 2,
    first: i < 5 || i === 9 || i === 10,
  })),
  laps: [{ pass: 'cut', texts: [], leaves: 60 }],
  checks: [],
} as unknown as BenchScript;

const standing = (...done: number[]) =>
  standingOf(
    script,
    fold(
      done.map(
        (i, n) =>
          ({
            id: String(n),
            device: 'a',
            deviceSeq: n,
            version: 1,
            seq: n,
            held: 0,
            kind: 'done',
            payload: visitOf(script, i),
          }) as unknown as LogEvent,
      ),
    ),
  );

test('the work can go on with any tier that is open on its side, and says what it passes over', () => {
  const ways = onwards(script, standing(0, 1));
  expect(ways.map((w) => [w.place, w.open, w.over, w.uncut])).toEqual([
    [3, 1, 1, ['G1']],
    [4, 1, 2, ['G1', 'P2']],
    // Later passes count on nothing that is uncut before them in the list.
    [5, 2, 3, []],
    [7, 1, 5, []],
    [8, 1, 6, []],
  ]);
});

test('a tier is cut again from any lap that it has had; a coarser one leaves its damage', () => {
  const again = repeats(script, standing(0, 1, 2, 3, 4, 5, 6));
  const p1 = again.filter((a) => a.tier === 'P1');
  expect(p1.map((a) => [a.pass, a.cuts, a.minutes, a.pits])).toEqual([
    ['polish', 2, 4, undefined],
    ['cut', 4, 8, 60],
  ]);
  expect(p1[1]!.passes).toEqual(['cut', 'polish']);
  expect(again.map((a) => a.tier)).toEqual(['P3', 'P2', 'G1', 'P1', 'P1']);
});

test('what is left is told by step, and what of it fits', () => {
  const state = standing(0, 1);
  expect(leftOf(script, state).map((s) => [s.setup, s.pass, s.cuts])).toEqual([
    ['s1', 'cut', 3],
    ['s1', 'polish', 4],
    ['s2', 'cut', 3],
    ['s2', 'polish', 3],
  ]);
  expect(fitting(script, state, 7)).toEqual({ cuts: 3, last: 4, all: false });
  expect(fitting(script, state, 1)).toEqual({ cuts: 0, last: -1, all: false });
  expect(fitting(script, state, 60).all).toBe(true);
  const evening = new Date(2026, 2, 1, 20, 0).getTime();
  expect(nextTime('21:30', evening)! - evening).toBe(90 * 60_000);
  expect(nextTime('7:00', evening)! - evening).toBe(11 * 3_600_000);
  expect(nextTime('', evening)).toBeUndefined();
});
