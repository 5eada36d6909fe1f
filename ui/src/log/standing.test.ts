import { describe, expect, test } from 'vitest';
import type { BenchScript } from '../api/client';
import type { LogEvent } from './events';
import { fold } from './fold';
import { latest, nextStone } from './run';
import fixtures from './standing.fixtures.json';
import { standingOf, visitOf } from './standing';

const script = {
  facets: fixtures.facets.map((id) => ({ id })),
  visits: fixtures.visits,
  checks: [
    { gate: 'transfer', item: 'bond' },
    { gate: 'transfer', item: 'turn' },
  ],
} as unknown as BenchScript;

const event = (n: number, more: object): LogEvent =>
  ({
    id: String(n),
    stream: 'work/w',
    device: 'a',
    deviceSeq: n,
    deviceTime: '2026-03-01T18:00:00Z',
    serverTime: '2026-03-01T18:00:00Z',
    version: 1,
    by: '',
    seq: n,
    held: 0,
    ...more,
  }) as LogEvent;

describe('the bench stands where the server says', () => {
  test.each(fixtures.standings)('$name', ({ done, skipped, turned, checked, then, want }) => {
    const happened = [
      ...done.map((i) => ({ kind: 'done', payload: visitOf(script, i) })),
      ...skipped.map((i) => ({ kind: 'skip', payload: visitOf(script, i) })),
      ...turned.map((setup) => ({ kind: 'transfer', payload: { setup } })),
      ...checked.map((item) => ({ kind: 'check', payload: { setup: 's2', item } })),
      ...then,
    ];
    const standing = standingOf(script, fold(happened.map((h, i) => event(i + 1, h))));
    const { at, step, gate } = standing;
    expect({ at, step, gate, skipped: standing.skipped }).toEqual(want);
    const marked = standing.visited.filter(Boolean).length;
    expect(standing.done + standing.skipped.length).toBe(marked);
  });

  test.each(fixtures.runs.map((r, i) => ({ ...r, i })))('run $i', ({ order, stones, want }) => {
    expect(nextStone(order, script.visits, stones) ?? -1).toBe(want);
  });
});

test('the checks of a transfer are those of the side that comes up', () => {
  const upTo = script.visits.filter((v) => v.setup === 's1').map((_, i) => visitOf(script, i));
  const log = fold([
    ...upTo.map((payload, i) => event(i + 1, { kind: 'done', payload })),
    event(50, { kind: 'check', payload: { setup: 's2', item: 'bond' } }),
    event(51, { kind: 'check', payload: { setup: 's1', item: 'turn' } }),
  ]);
  const standing = standingOf(script, log);
  expect([...standing.checked]).toEqual(['bond']);
  expect(standing.gate).toBe('transfer');
  expect(standing.last?.id).toBe('51');
});

test('a stone that is turned back and over again is checked anew', () => {
  const first = script.visits.filter((v) => v.setup === 's1');
  const log = first.map((_, i) => event(i + 1, { kind: 'done', payload: visitOf(script, i) }));
  const check = (n: number) => event(n, { kind: 'check', payload: { setup: 's2', item: 'bond' } });
  const turn = (n: number, setup: string) => event(n, { kind: 'transfer', payload: { setup } });
  const back = [...log, check(50), turn(51, 's2'), turn(52, 's1')];
  const before = standingOf(script, fold(back));
  expect(before).toMatchObject({ gate: 'transfer', sits: 's1', setup: 's2' });
  expect([...before.checked]).toEqual([]);
  expect([...standingOf(script, fold([...back, check(53)])).checked]).toEqual(['bond']);
});

test('Back takes what happened last in a run, whatever the clocks say', () => {
  const tick = (n: number, more: object) => event(n, { kind: 'done', payload: {}, ...more });
  // The server has both; its order counts, not that of clocks that were set back.
  const early = tick(5, { device: 'a', seq: 7, deviceTime: '2026-03-01T23:00:00Z' });
  const late = tick(2, { device: 'b', seq: 8, deviceTime: '2026-03-01T04:00:00Z' });
  expect(latest([early, undefined, late])).toBe(2);
  // One device's own order counts, also where its events arrived the wrong way round.
  expect(latest([tick(9, { seq: 3 }), tick(8, { seq: 4 })])).toBe(0);
  // What only this browser has comes after all of that, in the order of the device.
  const held = [tick(1, { held: 1, seq: 0 }), tick(2, { held: 1, seq: 0 })];
  expect(latest([late, ...held])).toBe(2);
  expect(latest([])).toBeUndefined();
});
