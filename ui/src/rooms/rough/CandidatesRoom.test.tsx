import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Settings } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { settingsOf, usual } from '../../testing/records';
import { candidate, piece } from '../../testing/rough';
import { serve, stale } from '../../testing/server';
import { roughWords as r } from '../../words/rough';
import { CandidatesRoom } from './CandidatesRoom';

afterEach(cleanup);

const price = (material: string, from: number, amount: number, currency = 'EUR') => ({
  material,
  currency,
  from,
  amount,
});

function open(refuse = false) {
  const put: Settings[] = [];
  const now = { worth: null as number | null, settings: settingsOf() };
  now.settings.prices = [
    price('Spinel', 0, 9000),
    price('Peridot', 1, 4000),
    price('peridot', 0, 1, 'USD'),
  ];
  serve({
    'GET /api/rough/p': () =>
      piece({ currency: 'EUR', cost: 5000, candidates: [{ ...candidate, worth: now.worth }] }),
    'GET /api/settings': () => now.settings,
    'GET /api/usual': () => usual,
    'GET /api/materials': () => ({ materials: [] }),
    'GET /api/diagrams': () => ({ diagrams: [], next: '', total: 0 }),
    'GET /api/solids/hash': () => cube,
    'GET /api/tints': () => ({ tints: [] }),
    'GET /api/rough/p/fit': () => new Response(''),
    'PUT /api/settings': (body: Settings) => {
      put.push(body);
      if (refuse && put.length === 1) {
        now.settings = { ...now.settings, version: 4, prices: [price('Peridot', 2, 7000)] };
        return stale;
      }
      now.worth = 24_000;
      now.settings = { ...body, version: body.version + 1 };
      return now.settings;
    },
  });
  renderInApp(<CandidatesRoom />, '/rough/p/beside', '/rough/:id/beside');
  return put;
}

test('prices are kept for a material and a currency, and the stones are worth what the server says', async () => {
  const put = open();
  fireEvent.change(await screen.findByLabelText(r.prices.carat(1)), { target: { value: '60' } });
  fireEvent.click(screen.getByText(r.prices.add));
  fireEvent.click(screen.getByText(r.prices.save));
  const shown = within(await screen.findByRole('listitem', { name: 'Meridian' }));
  await shown.findByText((text) => text.includes('240.00'));
  shown.getByText((text) => text.includes('190.00'));
  expect(put[0]!.prices).toEqual([
    price('Spinel', 0, 9000),
    price('peridot', 0, 1, 'USD'),
    price('Peridot', 1, 6000),
    price('Peridot', 2, 6000),
  ]);
  // Saved, there is nothing to save until something changes.
  await waitFor(() => expect(screen.queryByText(r.prices.save)).toBeNull());
});

test('prices that were changed elsewhere meanwhile are not written over unseen', async () => {
  const put = open(true);
  fireEvent.change(await screen.findByLabelText(r.prices.carat(1)), { target: { value: '60' } });
  fireEvent.click(screen.getByText(r.prices.save));
  const dialog = within(await screen.findByRole('dialog'));
  dialog.getByText((text) => text.includes('70.00'));
  dialog.getByText((text) => text.includes('60.00'));
  expect(put).toHaveLength(1);
});
