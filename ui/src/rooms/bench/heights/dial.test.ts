import { expect, test } from 'vitest';
import type { LogEvent } from '../../../log/events';
import { fold } from '../../../log/fold';
import { visitOf } from '../../../log/standing';
import { scriptOf } from '../../../testing/records';
import { takenIn } from './dial';

const script = scriptOf();

/** A log of what happened, in order. */
const logOf = (...happened: object[]) =>
  fold(
    happened.map(
      (h, i) =>
        ({
          id: String(i),
          device: 'a',
          deviceSeq: i,
          seq: i,
          held: 0,
          version: 1,
          ...h,
        }) as LogEvent,
    ),
  );

const read = (place: number, mm: number) => ({
  kind: 'reading',
  payload: { at: visitOf(script, place), mm },
});
const turn = (setup: string) => ({ kind: 'transfer', payload: { setup } });

test('readings count until the stone sits anew: turned back, glued, or off its dop', () => {
  const mms = (...more: object[]) =>
    takenIn(script, logOf(read(0, 48.1), read(1, 48.2), ...more), 's1').map((r) => r.mm);
  expect(mms()).toEqual([48.1, 48.2]);
  // While the other side is up, those of this one wait.
  expect(mms(turn('s2'))).toEqual([48.1, 48.2]);
  expect(mms(turn('s2'), turn('s1'))).toEqual([]);
  expect(mms(turn('s2'), turn('s1'), read(2, 50))).toEqual([50]);
  const glued = { setup: 's1', dop: 'Cone', adhesive: 'wax', minutes: 0 };
  const at = '2026-03-01T18:00:00Z';
  expect(mms({ kind: 'dopped', payload: glued, deviceTime: at })).toEqual([]);
  expect(mms({ kind: 'happened', payload: { what: 'bond-failed' } })).toEqual([]);
});
