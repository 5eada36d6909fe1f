import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, expect, test, vi } from 'vitest';
import type { Draft, StoneView } from '../../../api/client';
import { draftOf, tierOf } from '../../../testing/records';
import { Refused, serve } from '../../../testing/server';
import { usePull } from './usePull';

afterEach(cleanup);

const draft = draftOf({
  tiers: [
    tierOf(),
    tierOf({ key: 't2', name: 'P2', stop: 'meet P1 P1' }),
    tierOf({ key: 't3', name: 'P3' }),
  ],
});

/** P2 stands at the second of three meets. */
const stone = { facets: [{ tier: 1, target: { x: 0, y: 0, z: 0.5 } }] } as unknown as StoneView;
const reaches = [
  { distance: 0.6, stop: 'meet P1 G1' },
  { distance: 0.5, stop: 'meet P1 P1' },
  { distance: 0.3, stop: 'centre' },
];

async function pulling(answers: Parameters<typeof serve>[0] = {}) {
  const asked: Draft[] = [];
  serve({
    'POST /api/pull': (body: { draft: Draft }) => {
      asked.push(body.draft);
      return { from: 0.8, to: 0.2, normal: { x: 0, y: 0, z: 1 }, reaches };
    },
    ...answers,
  });
  const write = vi.fn();
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const { result } = renderHook(() => usePull(draft, 't2', stone, write), {
    wrapper: ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={client}>{children}</QueryClientProvider>
    ),
  });
  await waitFor(() => expect(result.current!.reaches).toHaveLength(3));
  return { pull: () => result.current!, write, asked };
}

const drag = (pull: Awaited<ReturnType<typeof pulling>>['pull'], outwards: number) => {
  act(() => pull().grab.start());
  act(() => pull().grab.move(outwards));
};

test('asked is the stone before the tier, without what comes after it or its present stop', async () => {
  const { pull, asked } = await pulling();
  expect(asked[0]!.tiers.map((t) => `${t.name} ${t.stop}`)).toEqual(['P1 centre', 'P2 ']);
  expect(pull().at).toBe(1);
});

test('near a meet it clicks in, and let go there it writes the meet', async () => {
  const { pull, write } = await pulling();
  drag(pull, -0.195);
  expect(pull()).toMatchObject({ at: 2, held: null });
  expect(pull().draft.tiers[1]!.stop).toBe('centre');
  act(() => pull().grab.end());
  await waitFor(() => expect(write.mock.calls).toEqual([['centre']]));
});

test('between two meets the plane is held, inside what can be cut, and the draft left alone', async () => {
  const measured: number[] = [];
  const { pull, write } = await pulling({
    'POST /api/pull/stop': (body: { distance: number }) => {
      measured.push(body.distance);
      return { stop: 'depth 0.2' };
    },
  });
  drag(pull, -0.1);
  expect(pull()).toMatchObject({ at: null, held: { tier: 1, distance: 0.4 } });
  expect(pull().draft).toBe(draft);
  // A drag counts from where it began, and ends where the stone does.
  act(() => pull().grab.move(-5));
  expect(pull().held!.distance).toBe(0.2);
  act(() => pull().grab.end());
  await waitFor(() => expect(write).toHaveBeenCalledWith('depth 0.2'));
  expect(measured).toEqual([0.2]);
});

test('a stop that the server cannot word leaves the tier where it was and says why', async () => {
  const { pull, write } = await pulling({
    'POST /api/pull/stop': () => new Refused(422, { detail: 'It cannot be cut there.' }),
  });
  act(() => pull().nudge(1));
  await waitFor(() => expect(pull().error?.message).toBe('It cannot be cut there.'));
  expect(write).not.toHaveBeenCalled();
  expect(pull().at).toBe(1);
});

test('steps go from meet to meet and stop at the last', async () => {
  const { pull, write } = await pulling();
  act(() => pull().step(1));
  act(() => pull().step(-1));
  expect(write.mock.calls).toEqual([['centre'], ['meet P1 G1']]);
});
