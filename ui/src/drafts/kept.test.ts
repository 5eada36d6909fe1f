import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Draft } from '../api/client';
import { change, deepest, historyOf, redo, undo, type History } from './history';
import { KeptDrafts } from './kept';
import { draftOf } from '../testing/records';

const draft = (name: string) => draftOf({ name });

let name: string;
let kept: KeptDrafts;
beforeEach(() => {
  name = `drafts ${Math.random()}`;
  kept = new KeptDrafts(name);
});
afterEach(async () => {
  kept.close();
  await Dexie.delete(name);
});

const named = (h: History<Draft>) => [...h.past, h.present, ...h.future].map((s) => s.value.name);

test('a history comes back after a reload, what was taken back included', async () => {
  let h = historyOf(draft('a'));
  for (const next of ['b', 'c', 'd']) h = change(h, draft(next), '', 0);
  h = undo(h);
  await kept.keep('d1', h);
  const again = new KeptDrafts(name);
  const read = (await again.read('d1', draft('c')))!;
  expect(named(read)).toEqual(['a', 'b', 'c', 'd']);
  expect(read.present.value.name).toBe('c');
  expect(redo(read).present.value.name).toBe('d');
  again.close();
});

test('a letter writes one draft, however many steps there are', async () => {
  let h = historyOf(draft('0'));
  for (let i = 1; i <= deepest; i++) h = change(h, draft(String(i)), '', i);
  await kept.keep('d1', h);
  const written = vi.spyOn(kept.steps, 'bulkPut');
  for (const text of ['x', 'xy', 'xyz']) {
    h = change(h, draft(text), 'name', 10_000);
    await kept.keep('d1', h);
  }
  await kept.keep('d1', undo(h));
  expect(written.mock.calls.map(([rows]) => rows.length)).toEqual([1, 1, 1, 0]);
  // The oldest step is given up with the first letter, and nothing else lies there.
  expect(await kept.steps.count()).toBe(deepest + 1);
});

test('letters that come faster than they can be written are written together', async () => {
  const written = vi.spyOn(kept.steps, 'bulkPut');
  let h = historyOf(draft(''));
  const writes = [...'Lantern'].map((_, i) => {
    h = change(h, draft('Lantern'.slice(0, i + 1)), 'name', i);
    return kept.keep('d1', h);
  });
  await Promise.all(writes);
  expect(written.mock.calls.length).toBeLessThan(3);
  expect((await kept.read('d1', draft('Lantern')))!.present.value.name).toBe('Lantern');
});

test('a step that was taken back and replaced is gone', async () => {
  let h = change(change(historyOf(draft('a')), draft('b'), '', 0), draft('c'), '', 0);
  await kept.keep('d1', h);
  h = change(undo(h), draft('d'), '', 0);
  await kept.keep('d1', h);
  expect(named((await kept.read('d1', draft('d')))!)).toEqual(['a', 'b', 'd']);
});

test('a history that does not lead to what the server has is not used', async () => {
  await kept.keep('d1', change(historyOf(draft('a')), draft('b'), '', 0));
  expect(await kept.read('d1', draft('elsewhere'))).toBeUndefined();
  expect(await kept.read('none', draft('a'))).toBeUndefined();
  // The page was closed before the last letters were saved: they come back.
  expect((await kept.read('d1', draft('a')))!.present.value.name).toBe('b');
});

test('only so many diagrams keep theirs, and what older versions kept comes over', async () => {
  kept.close();
  const old = new Dexie(name);
  old.version(1).stores({ stacks: 'diagram, touched' });
  await old.table('stacks').bulkPut([
    {
      diagram: 'd1',
      touched: 1,
      past: [draft('a'), draft('b')],
      present: draft('c'),
      future: [draft('d')],
    },
    { diagram: 'd2', touched: 2, past: [], present: draft('e'), future: [] },
  ]);
  old.close();
  kept = new KeptDrafts(name);
  const read = (await kept.read('d1', draft('c')))!;
  expect(named(read)).toEqual(['a', 'b', 'c', 'd']);
  for (let i = 0; i < 40; i++) await kept.keep(`n${i}`, historyOf(draft('n')));
  expect(await kept.read('d1', draft('c'))).toBeUndefined();
  expect(await kept.heads.count()).toBe(40);
  expect(await kept.steps.count()).toBe(40);
});

test('where the browser keeps nothing, nothing is thrown', async () => {
  vi.spyOn(kept, 'transaction').mockRejectedValue(new DOMException('', 'QuotaExceededError'));
  await kept.keep('d1', historyOf(draft('a')));
  kept.close();
  expect(await kept.read('d1', draft('a'))).toBeUndefined();
});
