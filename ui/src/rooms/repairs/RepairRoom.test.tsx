import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import type { RepairPage } from '../../api/client';
import type { Card } from '../../api/stones';
import { renderInApp } from '../../testing/app';
import { repairOf, stoneOf } from '../../testing/records';
import { Refused, serve, stale } from '../../testing/server';
import { photoWords } from '../../words/photos';
import { repairWords as r } from '../../words/repairs';
import { w } from '../../words/words';
import { RepairRoom } from './RepairRoom';
import { TakeInRoom } from './TakeInRoom';

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

/** Opens a repair that a server keeps. */
async function open(page: RepairPage = repairOf()) {
  const server = { page, cards: [] as (Card & { version: number })[] };
  serve({
    'GET /api/repairs/a': () => server.page,
    'GET /api/materials': () => ({ materials: [] }),
    'PUT /api/repairs/a': (sent: { name: string; version: number }) => {
      if (sent.version !== server.page.summary.version) return stale;
      server.page = repairOf({ name: sent.name, version: sent.version + 1 });
      return server.page;
    },
    'PUT /api/stones/a/finish': (card: Card & { version: number }) => {
      if (card.version !== (server.page.summary.finish?.version ?? 0)) return stale;
      server.cards.push(card);
      return server.page;
    },
  });
  const shown = renderInApp(<RepairRoom />, '/repairs/a', '/repairs/:id');
  await screen.findByRole('heading', { name: /Ring stone/ });
  return { ...shown, server };
}

const click = (name: string) => fireEvent.click(screen.getByRole('button', { name }));
const type = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

const cardOf = (change: Partial<Card>) => ({
  ...{ roughCarats: 2.1, finishedCarats: 1.98, widthMM: 8.02, lengthMM: 8.05, heightMM: 5.3 },
  ...{
    started: '2026-03-01',
    finished: '2026-03-04',
    hours: null,
    notes: 'the chip is out',
    price: 0,
    currency: '',
  },
  ...change,
});

test('a stone is given back today, with what it weighed and measured when it came', async () => {
  vi.useFakeTimers({ toFake: ['Date'], now: new Date(2026, 2, 4, 21, 30) });
  const { server } = await open();
  click(r.backTitle);
  const dialog = within(screen.getByRole('dialog'));
  fireEvent.change(dialog.getByLabelText(r.weightAfter), { target: { value: '1,98' } });
  fireEvent.change(dialog.getByLabelText(r.notes), { target: { value: 'the chip is out' } });
  fireEvent.click(dialog.getByRole('button', { name: r.back }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(server.cards).toMatchObject([{ ...cardOf({}), version: 0 }]);
});

test('a weight that cannot be read holds the stone back', async () => {
  await open();
  click(r.backTitle);
  const dialog = within(screen.getByRole('dialog'));
  fireEvent.change(dialog.getByLabelText(r.weightAfter), { target: { value: '2 ct' } });
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: r.back }).disabled).toBe(true);
});

test('a card that was written elsewhere meanwhile is shown, and mine can be kept over it', async () => {
  const { server } = await open();
  click(r.backTitle);
  const saved = { ...cardOf({ notes: 'recut the table' }), version: 4, saved: '' };
  server.page = repairOf({ finish: saved });
  const dialog = within(screen.getByRole('dialog'));
  fireEvent.change(dialog.getByLabelText(r.notes), { target: { value: 'the chip is out' } });
  fireEvent.click(dialog.getByRole('button', { name: r.back }));
  expect(await screen.findByText(`${r.notes}: recut the table`)).toBeTruthy();
  expect(screen.getByText(`${r.notes}: the chip is out`)).toBeTruthy();
  fireEvent.click(screen.getByText(w.conflict.mine));
  await waitFor(() => expect(server.cards).toHaveLength(1));
  expect(server.cards[0]).toMatchObject({ version: 4, notes: 'the chip is out' });
});

test('what was written down is corrected over the version that was read', async () => {
  const { server } = await open();
  click(r.edit);
  type(/What it is/, '');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: r.save }).disabled).toBe(true);
  type(/What it is/, 'Ring stone, oval');
  // Somebody else was quicker: theirs is taken, and the form goes.
  server.page = repairOf({ name: 'Ring stone of the dome fund', version: 8 });
  click(r.save);
  expect(await screen.findByText('Ring stone of the dome fund')).toBeTruthy();
  fireEvent.click(screen.getByText(w.conflict.theirs));
  expect(await screen.findByRole('heading', { name: /of the dome fund/ })).toBeTruthy();
  expect(screen.queryByRole('button', { name: r.save })).toBeNull();
});

test('of an earlier work nothing can be changed, and the way to the present one stands there', async () => {
  const page = repairOf();
  const now = { ...page.works[0]!, id: 'w2', task: 'recut' as const };
  await open({ ...page, works: [...page.works, now] });
  for (const name of [r.edit, r.back, r.toBench])
    expect(screen.queryByText(name, { selector: 'button, a' })).toBeNull();
  expect(screen.getByRole('link', { name: /present work/ }).getAttribute('href')).toBe('/stones/a');
});

test('photos that are refused say why, and those before them are there', async () => {
  const sent: unknown[] = [];
  const { server } = await open();
  vi.stubGlobal('fetch', async (to: string | Request) => {
    if (typeof to !== 'string') return Response.json(server.page);
    sent.push(to);
    const photo = {
      id: 'p1',
      hash: 'abc',
      note: '',
      taken: '',
      work: 'w1',
      shows: 'before' as const,
    };
    server.page = { ...server.page, photos: [photo] };
    if (sent.length < 2) return Response.json(photo);
    return Response.json({ detail: 'This is no picture.', places: [] }, { status: 422 });
  });
  const files = [new File(['a'], 'a.jpg'), new File(['b'], 'b.txt'), new File(['c'], 'c.jpg')];
  fireEvent.change(document.querySelector('input[type=file]')!, { target: { files } });
  expect(await screen.findByText('This is no picture.')).toBeTruthy();
  expect(await screen.findByAltText(photoWords.photo(r.before, 1))).toBeTruthy();
  // The first place to add one is that of how it came in.
  expect(sent).toEqual(Array(2).fill('/api/stones/a/photos?shows=before'));
});

test('a stone comes in with a name, and one that was cut here comes back with its own', async () => {
  const asked: { name?: string; version?: number; intake: { widthMM: number } }[] = [];
  const finish = { ...cardOf({ widthMM: 7.6 }), version: 1, saved: '' };
  serve({
    'GET /api/materials': () => ({ materials: [] }),
    'GET /api/stones/a/line': () => stoneOf({ finish }),
    'POST /api/repairs': (body: never) => {
      asked.push(body);
      return { id: 'b' };
    },
    'POST /api/stones/a/repairs': (body: never) => {
      asked.push(body);
      return asked.length < 3 ? new Refused(422, { detail: 'It is on the dop.' }) : stoneOf();
    },
  });
  const first = renderInApp(<TakeInRoom />, '/repairs/new', '/repairs/new');
  const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: r.keep });
  expect(keep().disabled).toBe(true);
  type(/What it is/, 'Ring stone with a chip');
  fireEvent.click(keep());
  await waitFor(() => expect(first.router.state.location.pathname).toBe('/repairs/b'));
  first.unmount();
  const back = renderInApp(<TakeInRoom />, '/repairs/new?stone=a', '/repairs/new');
  await screen.findByRole('heading', { name: r.cameBack(7, stoneOf().name) });
  expect(screen.queryByLabelText(/What it is/)).toBeNull();
  type(r.damage, 'a scratch on the table');
  fireEvent.click(keep());
  expect(await screen.findByText('It is on the dop.')).toBeTruthy();
  fireEvent.click(keep());
  await waitFor(() => expect(back.router.state.location.pathname).toBe('/repairs/a'));
  expect(asked[2]).toMatchObject({
    version: 5,
    intake: { widthMM: 7.6, carats: 1.98, damage: 'a scratch on the table' },
  });
});

test('photos and figures before and after stand side by side, and what was agreed anew is told', async () => {
  const photo = { hash: 'abc', note: '', taken: '', work: 'w1' };
  const page = repairOf();
  await open({
    ...page,
    photos: [
      { ...photo, id: 'p1', shows: 'before' },
      { ...photo, id: 'p2', shows: 'after' },
    ],
    history: [
      {
        id: 'h1',
        kind: 'agree',
        at: '2026-03-03T10:00:00Z',
        by: '',
        text: 'the table may go',
        facet: null,
      },
    ],
  });
  expect(screen.getByAltText(photoWords.photo(r.before, 1))).toBeTruthy();
  expect(screen.getByAltText(photoWords.photo(r.after, 1))).toBeTruthy();
  expect(screen.getByText(/agreed anew: the table may go/)).toBeTruthy();
  // A photo is taken off only after asking.
  fireEvent.click(screen.getByLabelText(photoWords.dropPhoto(r.after, 1)));
  fireEvent.click(screen.getByText(w.common.cancel));
  expect(screen.getByAltText(photoWords.photo(r.after, 1))).toBeTruthy();
});
