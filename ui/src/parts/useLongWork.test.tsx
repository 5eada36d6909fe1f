import { act, renderHook, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { Unreachable } from '../api/client';
import { useLongWork } from './useLongWork';

interface Line {
  done: number;
  total: number;
  ended?: string;
}

/** Work on a server that goes on whether somebody follows it or not. */
function work() {
  const followers: { tell: (l: Line) => void; close: () => void; signal: AbortSignal }[] = [];
  const asked: string[] = [];
  return {
    followers,
    asked,
    latest: () => followers.at(-1)!,
    start: async (what: string) => void asked.push(`start ${what}`),
    stop: async () => void asked.push('stop'),
    follow: (tell: (l: Line) => void, signal: AbortSignal) =>
      new Promise<void>((close) => followers.push({ tell, close, signal })),
  };
}

const follow = (w: ReturnType<typeof work>) =>
  renderHook(() => useLongWork<string, Line, number>(w, (sum, line) => (sum ?? 0) + line.done));

test('work that is under way is found again, and goes on when its page is left', async () => {
  const w = work();
  const { result, unmount } = follow(w);
  expect(result.current.running).toBe(false);
  act(() => w.latest().tell({ done: 40, total: 100 }));
  expect(result.current).toMatchObject({ state: 40, running: true, ran: true });
  unmount();
  expect(w.latest().signal.aborted).toBe(true);
  expect(w.asked).toEqual([]);
});

test('what had ended before the page was opened did not run on it', async () => {
  const w = work();
  const { result } = follow(w);
  act(() => w.latest().tell({ done: 100, total: 100, ended: 'stopped' }));
  await act(async () => w.latest().close());
  expect(result.current).toMatchObject({ state: 100, running: false, ran: false });
});

test('a new start takes the place of the old one, whose late lines count for nothing', async () => {
  const w = work();
  const { result } = follow(w);
  act(() => w.latest().tell({ done: 40, total: 100 }));
  await act(async () => result.current.start('again'));
  await waitFor(() => expect(w.followers).toHaveLength(2));
  act(() => w.followers[0]!.tell({ done: 60, total: 100, ended: 'complete' }));
  expect(result.current).toMatchObject({ state: 40, running: true });
  act(() => w.latest().tell({ done: 1, total: 10 }));
  expect(result.current.state).toBe(1);
  act(() => w.latest().tell({ done: 9, total: 10, ended: 'complete' }));
  await act(async () => w.latest().close());
  expect(result.current).toMatchObject({
    state: 10,
    running: false,
    ended: 'complete',
    error: null,
  });
});

test('a server that goes away half-way is an error, and what has come stays', async () => {
  const w = work();
  const { result } = follow(w);
  act(() => w.latest().tell({ done: 40, total: 100 }));
  await act(async () => w.latest().close());
  expect(result.current.error).toBeInstanceOf(Unreachable);
  expect(result.current).toMatchObject({ state: 40, running: false });
});

test('a start that is refused says so, and work is stopped only when that is asked', async () => {
  const w = work();
  w.start = async () => {
    throw new Error('too many trials');
  };
  const { result } = follow(w);
  await act(async () => result.current.start('much'));
  expect(result.current.error?.message).toBe('too many trials');
  expect(w.followers).toHaveLength(1);
  act(() => result.current.stop());
  expect(w.asked).toEqual(['stop']);
});
