import { describe, expect, test } from 'vitest';
import fixtures from './fold.fixtures.json';
import type { LogEvent } from './events';
import { fold, isPaused, lastAct, spentOf, visitKey } from './fold';

/** What the server's fold says of a log. */
interface Fixture {
  name: string;
  events: LogEvent[];
  want: {
    marks: string[];
    checks: string[];
    turns: string[];
    dops: string[];
    vets: number[];
    notes: number;
    plan: number;
    finished: boolean;
    late: number;
    last: string;
    moves: string[];
    happenings: string[];
    readings: string[];
    measures: string[];
    surveys: number;
    paused: boolean;
    spentMs: number;
    running: boolean;
  };
}

describe('the fold agrees with the server', () => {
  test.each(fixtures as unknown as Fixture[])('$name', ({ events, want }) => {
    const onDisk = events.map((e) => ({ ...e, held: 0 as const }));
    const s = fold(onDisk);
    const { spent, since } = spentOf(s);
    expect({
      marks: [...s.marks].map(([key, m]) => `${key} ${m.kind}`).sort(),
      checks: [...s.checks.keys()].sort(),
      turns: s.turns.map((t) => t.setup),
      dops: s.dops.map((g) => `${g.setup} ${g.dop} ${Math.round(g.cured)}`),
      vets: [...s.vets.keys()].sort((a, b) => a - b),
      notes: s.notes.length,
      plan: s.plan,
      finished: s.finished,
      late: s.late,
      last: lastAct(s)?.id ?? '',
      moves: s.moves.map((m) => `${m.setup} ${m.passes.join()} ${m.facets.join()}`),
      happenings: s.happenings.map((h) => h.what),
      readings: s.readings.map((r) => `${visitKey(r.at)} ${r.mm}`),
      measures: s.measures.map((m) => `${m.what} ${m.mm}`),
      surveys: s.surveys.length,
      paused: isPaused(s),
      spentMs: spent,
      running: since !== undefined,
    }).toEqual(want);
  });
});

test('what only this browser has counts after all that arrived, in the order of the device', () => {
  const event = (n: number, held: 0 | 1, more: Partial<LogEvent>): LogEvent =>
    ({
      id: String(n),
      stream: 'work/w',
      device: 'me',
      deviceSeq: n,
      deviceTime: new Date(n).toISOString(),
      serverTime: new Date(n).toISOString(),
      version: 1,
      by: '',
      seq: held ? 0 : n,
      held,
      ...more,
    }) as LogEvent;
  const visit = { setup: 's', pass: 'cut', facet: 'f1' };
  const tick = event(7, 1, { kind: 'done', payload: visit });
  const back = event(8, 1, { kind: 'undo', payload: { undoes: '7' } });
  const other = event(9, 0, { kind: 'note', payload: { text: 'a veil' }, device: 'other' });
  expect(fold([back, tick, other]).marks.size).toBe(0);
  expect(lastAct(fold([tick, other]))?.id).toBe('7');
  // On its way into the browser's database an entry is numbered by the page, from 1 on.
  const onItsWay = event(8, 1, { kind: 'undo', payload: { undoes: '7' }, device: 'page' });
  expect(fold([tick, { ...onItsWay, deviceSeq: 1 }]).marks.size).toBe(0);
});
