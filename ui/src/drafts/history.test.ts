import { expect, test } from 'vitest';
import { change, deepest, historyOf, redo, undo, type History } from './history';

const type = (h: History<string>, text: string, at: string, now: number) =>
  change(h, text, at, now);

test('typing on in one field is one step, a pause or another field begins the next', () => {
  let h = historyOf('');
  h = type(h, '4', 'angle', 1000);
  h = type(h, '41', 'angle', 2000);
  h = type(h, '41.', 'angle', 3499);
  h = type(h, '41.5', 'angle', 5000);
  h = type(h, 'G1', 'name', 5100);
  h = type(h, 'taken', '', 5200);
  h = type(h, 'taken again', '', 5201);
  expect(h.past.map((s) => s.value)).toEqual(['', '41.', '41.5', 'G1', 'taken']);
});

test('undo and redo lead through the same values, and the next letter is a step of its own', () => {
  let h = type(type(historyOf('a'), 'b', '', 1), 'c', '', 2);
  h = undo(undo(h));
  expect(h.present.value).toBe('a');
  expect(undo(h)).toBe(h);
  h = redo(h);
  expect(h.present.value).toBe('b');
  h = type(h, 'bc', 'name', 3);
  expect([h.past.length, h.future.length]).toEqual([2, 0]);
  expect(redo(h)).toBe(h);
  expect(undo(h).present.value).toBe('b');
});

test('numbers follow each other, also after a step was taken back and another one made', () => {
  let h = type(type(historyOf('a'), 'b', '', 1), 'c', '', 2);
  h = type(undo(h), 'd', '', 3);
  expect([...h.past, h.present].map((s) => s.no)).toEqual([0, 1, 2]);
});

test('the oldest steps are given up', () => {
  let h = historyOf(0);
  for (let i = 1; i <= deepest + 5; i++) h = change(h, i, '', i);
  expect(h.past).toHaveLength(deepest);
  expect(h.past[0]!.value).toBe(5);
});
