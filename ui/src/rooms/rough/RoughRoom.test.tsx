import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Parcel, ParcelLine, PieceForm, PieceLine } from '../../api/rough';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { serve } from '../../testing/server';
import { roughWords as r } from '../../words/rough';
import { RoughRoom } from './RoughRoom';

afterEach(cleanup);

const lot: ParcelLine = {
  id: 'lot',
  name: 'Hill lot',
  source: 'the hill',
  lot: 'H7',
  bought: '',
  per: 'gram',
  amount: 450,
  postage: 300,
  currency: 'EUR',
  promised: 'clean',
  came: '',
  note: '',
  version: 2,
  pieces: 1,
  carats: 10,
  total: 1200,
};

const line: PieceLine = {
  id: 'p',
  number: 4,
  name: 'block',
  material: 'Peridot',
  carats: 10,
  fate: 'whole',
  parcel: 'lot',
  parcelName: 'Hill lot',
  size: { x: 2, y: 2, z: 2 },
  kept: cube,
  flaws: 1,
  candidates: 0,
  best: null,
};

const served = (more: Parameters<typeof serve>[0] = {}) =>
  serve({
    'GET /api/rough': () => ({ pieces: [line], next: '', total: 1 }),
    'GET /api/parcels': () => ({ parcels: [lot] }),
    'GET /api/materials': () => ({ materials: [] }),
    'GET /api/settings': () => ({}),
    ...more,
  });

test('a parcel is told with what it cost, and what came of it is written over what was read', async () => {
  const put: Parcel[] = [];
  served({
    'PUT /api/parcels/lot': (body: Parcel) => {
      put.push(body);
      return { ...body, version: body.version + 1 };
    },
  });
  renderInApp(<RoughRoom />, '/rough');
  expect((await screen.findByText(/the hill · lot H7/)).textContent).toContain(
    '12.00 with postage',
  );
  fireEvent.click(screen.getByText(r.parcelForm.change));
  fireEvent.change(await screen.findByLabelText(r.parcelForm.came), {
    target: { value: 'cloudy' },
  });
  fireEvent.click(screen.getByText(r.parcelForm.keep));
  await waitFor(() => expect(put).toHaveLength(1));
  expect(put[0]).toMatchObject({
    id: 'lot',
    amount: 450,
    promised: 'clean',
    came: 'cloudy',
    version: 2,
  });
  // What is reckoned is not written.
  expect(put[0]).not.toHaveProperty('total');
});

test('a scan becomes the solid of a new piece, with its hollows told', async () => {
  const put: PieceForm[] = [];
  served({
    'POST /api/rough/mesh': () => ({ points: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1], hollow: true }),
    'POST /api/rough/work': (body: PieceForm) => {
      put.push(body);
      return { whole: cube, kept: cube, wholeCarats: 1, keptCarats: 1, off: 0, care: '', cuts: [] };
    },
  });
  renderInApp(<RoughRoom />, '/rough');
  await screen.findByText('Piece 4 · block');
  fireEvent.click(screen.getByText(r.add));
  const input = (await screen.findByRole('dialog')).querySelector('input[type=file]')!;
  fireEvent.change(input, { target: { files: [new File(['v 0 0 0'], 'lump.obj')] } });
  await screen.findByText(r.adding.scanned(4));
  expect(screen.getByText(r.adding.hollow)).toBeTruthy();
  // Without a material there is nothing to weigh yet.
  expect(screen.getByText(r.estimate.first)).toBeTruthy();
  expect(put).toHaveLength(0);
});
