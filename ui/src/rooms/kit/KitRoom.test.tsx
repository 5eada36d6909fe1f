import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Happened, ItemPage, Ladder, Rung } from '../../api/kit';
import { renderInApp } from '../../testing/app';
import { pageOf, shelvedOf } from '../../testing/kit';
import { settingsOf } from '../../testing/records';
import { Refused, serve } from '../../testing/server';
import { clockWords } from '../../words/clock';
import { kitWords as k } from '../../words/kit';
import { KitRoom } from './KitRoom';

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const tin = pageOf({ item: { name: 'Tin', id: 'tin' } });

function open(at: string, pages: ItemPage[], answers: Parameters<typeof serve>[0] = {}) {
  const told: Happened[] = [];
  serve({
    'GET /api/kit': () => ({ items: pages }),
    'GET /api/settings': () => settingsOf(),
    'GET /api/materials': () => ({ materials: [] }),
    ...Object.fromEntries(
      pages.flatMap((p) => [
        [`GET /api/kit/${p.item.id}`, () => p],
        [`GET /api/kit/${p.item.id}/recipes`, () => ({ grain: 1, recipes: [] })],
        [
          `POST /api/kit/${p.item.id}/log`,
          (body: Happened) => {
            told.push(body);
            return p;
          },
        ],
      ]),
    ),
    ...answers,
  });
  renderInApp(<KitRoom />, at);
  return told;
}

test('a lap that something is on is cleaned in the mildest way that takes all of it', async () => {
  const dirty = {
    ...tin,
    on: ['It met 3 µm diamond.'],
    ways: [{ way: 'skim' as const, text: 'Take its face off.' }],
    allWays: [
      { way: 'rinse' as const, text: 'Rinse it.' },
      { way: 'skim' as const, text: 'Take its face off.' },
    ],
    needs: [{ need: 'dirty' as const, grave: false, text: 'It met 3 µm diamond.' }],
  };
  const told = open('/kit?thing=tin', [dirty]);
  fireEvent.click(await screen.findByText(k.clean));
  const dialog = await screen.findByRole('dialog');
  fireEvent.change(within(dialog).getByLabelText(k.flatness), { target: { value: '12' } });
  fireEvent.click(within(dialog).getByText('Save'));
  await waitFor(() => expect(told).toHaveLength(1));
  expect(told[0]).toMatchObject({ kind: 'cleaned', way: 'skim', flatness: 12 });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('what is refused stays as it was typed, and is said', async () => {
  const adhesive = pageOf({
    item: { kind: 'adhesive', name: 'Epoxy', id: 'glue', lap: null, unit: 'pieces' },
    have: 2,
  });
  open('/kit?thing=glue', [adhesive], {
    'POST /api/kit/glue/log': () => new Refused(422, { detail: 'That cannot happen to Epoxy.' }),
  });
  fireEvent.click(await screen.findByText(k.do.count));
  const field = await screen.findByLabelText(k.have);
  fireEvent.change(field, { target: { value: '7' } });
  fireEvent.click(screen.getByText('Save'));
  expect(await screen.findByText('That cannot happen to Epoxy.')).toBeTruthy();
  expect((field as HTMLInputElement).value).toBe('7');
});

const rung = (change: Partial<Rung>): Rung => ({
  pass: { id: 'a', name: 'Cut', lap: '600', lapItem: '', compound: '', compoundItem: '' },
  grain: 25,
  leavesLow: 50,
  leavesHigh: 75,
  leaves: 60,
  takesOff: 0,
  ratio: 0,
  limit: 0,
  wrong: '',
  cares: [],
  ways: [],
  ...change,
});

test('a ladder says what is wrong with a step, what is missing, and what the shelf has instead', async () => {
  const ladder: Ladder = {
    rungs: [
      rung({}),
      rung({
        pass: {
          id: 'b',
          name: 'Polish',
          lap: 'Tin',
          lapItem: 'tin',
          compound: '',
          compoundItem: '',
        },
        ratio: 80,
        wrong: 'The lap before is 80 times coarser.',
        cares: ['It met fluorite.'],
        ways: [{ way: 'scrub', text: 'Scrub it.' }],
      }),
    ],
    best: ['', 'tin'],
    sound: false,
    missing: [{ grain: 6, mesh: 3000 }],
  };
  serve({
    'GET /api/kit': () => ({ items: [tin] }),
    'POST /api/kit/ladder': () => ladder,
    'GET /api/materials': () => ({ materials: [] }),
  });
  renderInApp(<KitRoom />, '/kit?for=Peridot');
  expect(await screen.findByText(/80 times coarser/)).toBeTruthy();
  expect(screen.getByText(/It met fluorite\. Scrub it\./)).toBeTruthy();
  expect(screen.getByText(k.ladder.missing(k.ladder.grain('6 µm', '3000')))).toBeTruthy();
  // The lap of the ladder carries its place on the shelf.
  const place = screen.getByRole('button', { name: /Tin/ });
  expect(within(place).getByText('2')).toBeTruthy();
});

test('a clock of a recipe runs on while its page is closed', async () => {
  vi.useFakeTimers({ toFake: ['Date', 'setInterval', 'clearInterval'] });
  const recipe = {
    id: 'r',
    name: 'Charge it',
    kind: 'charge',
    surfaces: [],
    parts: [{ what: 'Diamond', amount: 1, unit: 'ct', per: 'area' }],
    steps: [{ text: 'Roll it in.', minutes: 4 }],
    caution: '',
    version: 0,
  };
  const answers = {
    'GET /api/recipes': () => ({ recipes: [recipe] }),
    'GET /api/kit/tin/recipes': () => ({ grain: 1, recipes: [{ recipe, amounts: [1.64] }] }),
  };
  open('/kit?show=recipes', [tin], answers);
  expect(await screen.findByText('1.64 ct')).toBeTruthy();
  fireEvent.click(screen.getByText(clockWords.start('4 min')));
  expect(screen.getByRole('timer').textContent).toBe('0:04:00');
  cleanup();
  vi.setSystemTime(Date.now() + 3 * 60_000);
  open('/kit?show=recipes', [tin], answers);
  expect((await screen.findByRole('timer')).textContent).toBe('0:01:00');
  cleanup();
  vi.setSystemTime(Date.now() + 2 * 60_000);
  open('/kit?show=recipes', [tin], answers);
  expect((await screen.findByRole('timer')).textContent).toBe(clockWords.over);
  fireEvent.click(screen.getByText(clockWords.done));
  expect(screen.queryByRole('timer')).toBeNull();
});

test('things that are gone are shown on request', async () => {
  const gone = pageOf({ ...shelvedOf({ gone: true }), item: { name: 'Old copper', id: 'old' } });
  open('/kit', [tin, gone]);
  await screen.findByText('Tin');
  expect(screen.queryByText('Old copper')).toBeNull();
  fireEvent.click(screen.getByText(k.showGone(1)));
  expect(screen.getByText('Old copper')).toBeTruthy();
});
