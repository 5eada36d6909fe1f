import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { renderInApp } from '../../testing/app';
import { stoneOf } from '../../testing/records';
import { w } from '../../words/words';
import { StonesRoom } from './StonesRoom';

afterEach(cleanup);

/** A server of so many stones that answers two to a page, and tells what it was asked. */
function open(count: number, at = '/stones') {
  const asked: string[] = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    const { search, searchParams } = new URL(request.url);
    asked.push(search);
    const text = searchParams.get('text') ?? '';
    const all = Array.from({ length: count }, (_, i) =>
      stoneOf({ id: `s${i}`, number: i + 1, name: `Stone ${i + 1}`, state: 'finished' }),
    ).filter((s) => s.name.includes(text));
    const from = Number(searchParams.get('after') ?? 0);
    const next = from + 2 < all.length ? String(from + 2) : '';
    return Response.json({ stones: all.slice(from, from + 2), next, total: all.length });
  });
  return { ...renderInApp(<StonesRoom />, at), asked };
}

const rows = () => [...document.querySelectorAll('tbody tr')].map((r) => r.textContent);

test('stones come page by page, and how many are left is said', async () => {
  open(5);
  const more = await screen.findByText(w.common.more(2, 5));
  fireEvent.click(more);
  await waitFor(() => expect(rows()).toHaveLength(4));
  fireEvent.click(screen.getByText(w.common.more(4, 5)));
  await waitFor(() => expect(rows()).toHaveLength(5));
  expect(rows()[4]).toContain('Stone 5');
  expect(screen.queryByRole('button', { name: /more/ })).toBeNull();
});

test('what is searched for stands in the address, and is found there again', async () => {
  const { router } = open(5, '/stones?text=Stone+3&state=finished');
  await waitFor(() => expect(rows()).toHaveLength(1));
  const field = screen.getByLabelText<HTMLInputElement>(w.stones.search);
  expect(field.value).toBe('Stone 3');
  fireEvent.change(field, { target: { value: 'Stone 9' } });
  expect(await screen.findByText(w.stones.noMatch)).toBeTruthy();
  expect(router.state.location.search).toBe('?text=Stone+9&state=finished');
  fireEvent.click(screen.getByText(w.diagrams.clear));
  await waitFor(() => expect(rows()).toHaveLength(2));
  expect(router.state.location.search).toBe('');
});

test('where there is no stone yet the way to the first one is shown, and no search', async () => {
  open(0);
  expect(await screen.findByText(w.stones.nothing)).toBeTruthy();
  expect(screen.queryByLabelText(w.stones.search)).toBeNull();
});
