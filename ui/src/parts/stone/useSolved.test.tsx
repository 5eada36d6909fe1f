import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, expect, test } from 'vitest';
import type { Draft } from '../../api/client';
import { draftOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { useSolved } from './useSolved';

afterEach(cleanup);

const place = (code: string) => ({
  code,
  tier: 0,
  tierName: 'P1',
  field: '',
  message: code,
  line: 0,
  column: 0,
});

/** A server that answers for a draft only when it is told to. */
function slowServer() {
  const answers = new Map<string, (answer: unknown) => void>();
  serve({
    'POST /api/solve': (body: { draft: Draft; serial: number }) =>
      new Promise((done) => answers.set(body.draft.name, done)),
  });
  return async (name: string, stone: object | null, problems: string[] = []) => {
    await waitFor(() => expect(answers.has(name)).toBe(true));
    answers.get(name)!({ serial: 1, problems: problems.map(place), warnings: [], stone });
  };
}

const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={client}>{children}</QueryClientProvider>
);
const solving = (first: string) =>
  renderHook(({ name }) => useSolved(draftOf({ name })), {
    wrapper,
    initialProps: { name: first },
  });

test('an answer that comes late is dropped', async () => {
  const answer = slowServer();
  const { result, rerender } = solving('early');
  rerender({ name: 'late' });
  await answer('late', { complete: true, gear: 96 });
  await waitFor(() => expect(result.current.shown).toMatchObject({ gear: 96 }));
  await answer('early', { complete: true, gear: 80 });
  await new Promise((done) => queueMicrotask(() => done(undefined)));
  expect(result.current.shown).toMatchObject({ gear: 96 });
  expect(result.current.whole?.name).toBe('late');
});

test('while a draft cannot be cut, the last stone that could be is held', async () => {
  const answer = slowServer();
  const { result, rerender } = solving('good');
  await answer('good', { complete: true, gear: 96 });
  await waitFor(() => expect(result.current.whole?.name).toBe('good'));
  rerender({ name: 'bad' });
  await answer('bad', { complete: false, gear: 64 }, ['meet-missing']);
  await waitFor(() => expect(result.current.solved?.problems).toHaveLength(1));
  expect(result.current).toMatchObject({
    shown: { gear: 96 },
    behind: true,
    whole: { name: 'good' },
  });
  // A stone that is only begun is no mistake: it is shown as far as it comes.
  rerender({ name: 'begun' });
  await answer('begun', { complete: false, gear: 32 }, ['block-left']);
  await waitFor(() => expect(result.current.shown).toMatchObject({ gear: 32 }));
  expect(result.current.behind).toBe(false);
});
