import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { Unreachable } from '../api/client';
import { carryOver } from './carryOver';
import { randomID } from '../api/making';
import { Kept } from './kept';

const entry = (id: string, kind: string, more = {}) => ({
  id,
  device: 'old tablet',
  deviceTime: '2026-03-01T10:00:00Z',
  kind,
  setup: '',
  pass: '',
  facet: '',
  item: '',
  undoes: '',
  text: '',
  ...more,
});

let kept: Kept;
beforeEach(async () => {
  kept = new Kept(randomID());
  const old = new Dexie('cressa-bench');
  old.version(1).stores({ waiting: '++seq, stone' });
  await old.table('waiting').bulkAdd([
    {
      stone: 'here',
      event: entry('a', 'done', { setup: 's1', pass: 'cut', facet: 'f1' }),
    },
    { stone: 'gone', event: entry('b', 'note', { text: 'a veil' }) },
    { stone: 'here', event: entry('c', 'undo', { undoes: 'a' }) },
  ]);
  old.close();
});
afterEach(async () => {
  kept.close();
  await Dexie.delete('cressa-bench');
});

test('what an older version left waiting is sent from here, in its order', async () => {
  await carryOver(kept, async (stone) => (stone === 'here' ? 'w1' : undefined));
  const held = await kept.held(9);
  expect(held.map((e) => [e.id, e.stream, e.kind, e.device, e.payload])).toEqual([
    ['a', 'work/w1', 'done', 'old tablet', { setup: 's1', pass: 'cut', facet: 'f1' }],
    ['c', 'work/w1', 'undo', 'old tablet', { undoes: 'a' }],
  ]);
  expect((await kept.refused.toArray()).map((r) => [r.id, r.reason])).toEqual([
    ['b', 'no-such-stream'],
  ]);
  expect(await Dexie.exists('cressa-bench')).toBe(false);
});

test('without the network it stays where it is', async () => {
  const away = () => Promise.reject(new Unreachable('unreachable'));
  await expect(carryOver(kept, away)).rejects.toThrow(Unreachable);
  expect(await kept.held(9)).toEqual([]);
  expect(await Dexie.exists('cressa-bench')).toBe(true);
});
