import 'fake-indexeddb/auto';
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { kept, log } from '../../log/browser';
import { streamOf, type LogEvent } from '../../log/events';
import { diskWords as d } from '../../words/disk';
import { DiskCares, DiskState } from './DiskState';

const stream = streamOf('w1');

beforeEach(async () => {
  await Promise.all([kept.events.clear(), kept.refused.clear(), kept.works.clear()]);
  await log.merge(stream, []);
  log.reached(false);
});
afterEach(cleanup);

const tick = (facet: string) => ({
  kind: 'done' as const,
  payload: { setup: 's1', pass: 'cut', facet },
});

/** Adds a tick and waits until the browser keeps it. */
async function cut(facet: string): Promise<LogEvent> {
  let made: LogEvent[] = [];
  await act(async () => {
    made = log.add(stream, [tick(facet)]);
    await log.keep();
  });
  return made[0]!;
}

test('the shell counts what is not on disk, and is silent when all is', async () => {
  render(<DiskState quiet />);
  expect(document.body.textContent).toBe('');
  const first = await cut('f1');
  await cut('f2');
  expect(screen.getByText(d.waitingSomewhere(2))).toBeTruthy();
  await act(() => log.settle([{ id: first.id, seq: 1 }], []));
  expect(screen.getByText(d.waitingSomewhere(1))).toBeTruthy();
});

test('a refused entry is listed by the names of the bench until it has been read', async () => {
  await kept.works.put({
    path: '/api/stones/a/script',
    work: {
      workId: 'w1',
      number: 7,
      name: 'Sphene',
      facets: [{ id: 'f3', tier: 'P2', dial: { tooth: 21 } }],
      passes: [{ id: 'cut', name: 'Cut', lap: '600' }],
    },
  });
  render(<DiskCares />);
  const event = await cut('f3');
  const { id } = event;
  await act(() =>
    log.settle([], [{ id, event, reason: 'not-asked', message: 'Tick it anew.', at: '' }]),
  );
  fireEvent.click(screen.getByText(d.read));
  expect(await screen.findByText(d.visit('done', 'P2', 21, 'Cut'))).toBeTruthy();
  expect(screen.getByText(/7 · Sphene/)).toBeTruthy();
  expect(screen.getByText('Tick it anew.')).toBeTruthy();
  fireEvent.click(screen.getByText(d.understood));
  expect(await screen.findByText(d.noneRefused)).toBeTruthy();
  await waitFor(() => expect(screen.queryByText(d.refused(1))).toBeNull());
});

test('a browser that keeps nothing says so, and so does one whose server is away', async () => {
  render(<DiskCares />);
  const add = vi.spyOn(kept, 'add').mockRejectedValue(new DOMException('', 'QuotaExceededError'));
  await cut('f1');
  expect(screen.getByText(d.fleeting)).toBeTruthy();
  act(() => log.reached(true));
  expect(screen.getByText(d.away(1))).toBeTruthy();
  // Where the server answers and takes nothing, its own words say why.
  act(() => log.reached(true, 'The disk is full.'));
  expect(screen.getByText(d.notTaken('The disk is full.', 1))).toBeTruthy();
  add.mockRestore();
  await act(() => log.keep());
  expect(screen.queryByText(d.fleeting)).toBeNull();
});
