import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Finish, StonePage } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { asCutOf, stoneOf } from '../../testing/records';
import { serve, stale } from '../../testing/server';
import { cardWords } from '../../words/card';
import { w } from '../../words/words';
import { CardRoom } from './CardRoom';

afterEach(cleanup);

const l = w.logbook;

const pageOf = (finish: Finish | null = null) =>
  ({
    summary: stoneOf({ finish, state: finish ? 'finished' : 'cut' }),
    assessment: { carats: 2.5, width: 8, length: 8, height: 5.2 },
    before: null,
    began: '2026-03-01T10:00:00Z',
    reckoned: 6.25,
    history: [],
    photos: [],
    works: [],
    finishing: [{ text: 'Warm the dop', minutes: 15, caution: 'hot' }],
  }) as unknown as StonePage;

const finishOf = (change: Partial<Finish> = {}): Finish => ({
  ...{ roughCarats: 9, finishedCarats: 2.25, widthMM: 8.02, lengthMM: 8.05, heightMM: 5.3 },
  ...{
    started: '2026-03-01',
    finished: '2026-03-02',
    hours: null,
    notes: '',
    price: 0,
    currency: '',
  },
  ...{ version: 3, saved: '' },
  ...change,
});

async function open(page = pageOf()) {
  const server = { page, cards: [] as Finish[] };
  serve({
    'GET /api/stones/a': () => server.page,
    'GET /api/stones/a/as-cut': asCutOf,
    'PUT /api/stones/a/finish': (card: Finish) => {
      if (card.version !== (server.page.summary.finish?.version ?? 0)) return stale;
      server.cards.push(card);
      server.page = pageOf({ ...card, version: card.version + 1 });
      return server.page;
    },
  });
  const shown = renderInApp(<CardRoom />, '/stones/a/card', '/stones/:id/card');
  await screen.findByRole('heading', { level: 1 });
  return { ...shown, server };
}

const field = (label: string) =>
  screen.getByLabelText<HTMLInputElement>(new RegExp(`^${label}( \\(.*\\))?$`));
const type = (label: string, value: string) =>
  fireEvent.change(field(label), { target: { value } });
const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: l.keep });

test('a card begins with the days at the wheel, and what is planned stands under each figure', async () => {
  const { server, router } = await open();
  expect(field(l.started).value).toBe('2026-03-01');
  expect(field(l.finishedOn).value).toBe('2026-03-02');
  expect(field(l.finishedCarats).value).toBe('');
  expect(screen.getByText(l.planned('2.50 ct'))).toBeTruthy();
  expect(screen.getByText(l.reckoned('6.3'))).toBeTruthy();
  expect(screen.getByText('Warm the dop')).toBeTruthy();
  type(cardWords.price, '480');
  type(cardWords.currency, 'eu');
  expect(keep().disabled).toBe(true);
  type(cardWords.currency, 'eur');
  type(l.roughCarats, '9');
  expect(screen.queryByText('25.0 %')).toBeNull();
  type(l.finishedCarats, '2,25');
  expect(screen.getByText('25.0 %')).toBeTruthy();
  fireEvent.click(keep());
  await waitFor(() => expect(router.state.location.pathname).toBe('/stones/a'));
  // What was not measured is 0, and hours that were not typed are left to the ticks.
  expect(server.cards).toMatchObject([
    {
      ...{ roughCarats: 9, finishedCarats: 2.25, widthMM: 0, hours: null, version: 0 },
      ...{ price: 48000, currency: 'EUR' },
    },
  ]);
});

test('a figure that cannot be read keeps the card open, and an emptied one is none', async () => {
  const { server } = await open(pageOf(finishOf({ hours: 7.5 })));
  expect(field(l.hoursLabel).value).toBe('7.5');
  type(l.hoursLabel, 'about seven');
  expect(keep().disabled).toBe(true);
  type(l.hoursLabel, '20000');
  expect(keep().disabled).toBe(true);
  type(l.hoursLabel, '');
  type(w.stones.height, '');
  fireEvent.click(keep());
  await waitFor(() => expect(server.cards).toHaveLength(1));
  expect(server.cards[0]).toMatchObject({ hours: null, heightMM: 0, widthMM: 8.02, version: 3 });
});

test('a card that was kept elsewhere is shown beside this one, and theirs can be gone on from', async () => {
  const { server } = await open(pageOf(finishOf()));
  type(l.notes, 'a feather under the table');
  server.page = pageOf(finishOf({ notes: 'given to the dome fund', version: 6 }));
  fireEvent.click(keep());
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText(`${l.notes}: a feather under the table`)).toBeTruthy();
  expect(dialog.getByText(`${l.notes}: given to the dome fund`)).toBeTruthy();
  fireEvent.click(dialog.getByText(w.conflict.theirs));
  await waitFor(() => expect(field(l.notes).value).toBe('given to the dome fund'));
  expect(server.cards).toEqual([]);
  type(l.notes, 'given to the dome fund, with a feather');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  fireEvent.click(keep());
  await waitFor(() => expect(server.cards).toHaveLength(1));
  expect(server.cards[0]!.version).toBe(6);
});

test('weights are typed in grams where somebody weighs in them, and kept in carats', async () => {
  localStorage.setItem('cressa-weights-in', 'g');
  const { server } = await open();
  type(l.finishedCarats, '0.5');
  expect(screen.getByText(/= 2.50 ct/)).toBeTruthy();
  fireEvent.click(keep());
  await waitFor(() => expect(server.cards.at(-1)).toMatchObject({ finishedCarats: 2.5 }));
  localStorage.clear();
});
