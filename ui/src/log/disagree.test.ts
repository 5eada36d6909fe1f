import { expect, it } from 'vitest';
import { disagreements } from './disagree';
import type { LogEvent } from './events';
import { fold } from './fold';

const visit = { setup: 's', pass: 'p', facet: 'f' };

let count = 0;

/** An entry of a device, in the order of arrival; held by this browser where it has no place yet. */
const entry = (device: string, kind: 'done' | 'skip', seq: number, left?: true): LogEvent =>
  ({
    id: `${device}${++count}`,
    stream: 'work/w',
    device,
    deviceSeq: count,
    deviceTime: '2026-03-01T18:00:00Z',
    serverTime: '2026-03-01T18:00:00Z',
    version: kind === 'done' ? 2 : 1,
    by: device,
    seq,
    held: seq === 0 ? 1 : 0,
    kind,
    payload: { ...visit, ...(left && { left }) },
  }) as LogEvent;

const found = (...log: LogEvent[]) =>
  disagreements(fold(log)).map((d) => [d.cut.at(-1)!.by, d.left.by]);

it('is said where one screen cut what another left out, in whatever order that arrives', () => {
  expect(found(entry('a', 'done', 1), entry('b', 'skip', 2))).toEqual([['a', 'b']]);
  expect(found(entry('b', 'skip', 1), entry('a', 'done', 2))).toEqual([['a', 'b']]);
  expect(found(entry('a', 'done', 1), entry('b', 'skip', 0))).toEqual([['a', 'b']]);
});

it('is over once somebody who knows says what is so, and none where a screen changes its own mind', () => {
  const both = [entry('a', 'done', 1), entry('b', 'skip', 2)];
  expect(found(...both, entry('b', 'done', 3, true))).toEqual([]);
  expect(found(entry('b', 'skip', 1), entry('a', 'done', 2, true))).toEqual([]);
  expect(found(entry('a', 'skip', 1), entry('a', 'done', 2))).toEqual([]);
  expect(found(entry('a', 'done', 1), entry('b', 'done', 2))).toEqual([]);
});
