import 'fake-indexeddb/auto';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { aloneIn } from './alone';
import { randomID } from '../api/making';
import { Kept } from './kept';

// Over plain http a browser has no locks to give; jsdom has none either.
let kept: Kept;
beforeEach(() => {
  kept = new Kept(randomID());
});
afterEach(() => {
  vi.useRealTimers();
  kept.close();
});

/** A tab that sends until it is let go. */
function sending(alone: (f: () => Promise<void>) => Promise<void>) {
  let end = () => {};
  let began = () => {};
  const begun = new Promise<void>((resolve) => (began = resolve));
  const done = alone(() => {
    began();
    return new Promise<void>((resolve) => (end = resolve));
  });
  return { begun, finish: () => (end(), done) };
}

test('without locks one tab sends, and another when it is done', async () => {
  const [first, second] = [aloneIn(kept), aloneIn(kept)];
  const tab = sending(first);
  await tab.begun;
  const other = vi.fn(async () => {});
  await second(other);
  expect(other).not.toHaveBeenCalled();
  await tab.finish();
  await second(other);
  expect(other).toHaveBeenCalledOnce();
});

test('a tab that was killed while it sent loses its turn', async () => {
  vi.useFakeTimers({ toFake: ['Date'] });
  const tab = sending(aloneIn(kept));
  await tab.begun;
  vi.setSystemTime(Date.now() + 20_000);
  const other = vi.fn(async () => {});
  await aloneIn(kept)(other);
  expect(other).toHaveBeenCalledOnce();
});

test('where nothing can be kept nobody else sends', async () => {
  vi.spyOn(kept, 'transaction').mockRejectedValue(new Error('private'));
  const f = vi.fn(async () => {});
  await aloneIn(kept)(f);
  expect(f).toHaveBeenCalledOnce();
});
