import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { PieceForm, Split } from '../../api/rough';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { usual } from '../../testing/records';
import { candidate, piece } from '../../testing/rough';
import { serve } from '../../testing/server';
import { splitWords as k } from '../../words/variants';
import { TwoStonesRoom } from './TwoStonesRoom';

afterEach(cleanup);

const stone = (name: string, carat: number): Split['stones'][number] => ({
  diagram: name,
  revision: 'hash',
  name,
  place: candidate.place!,
  width: 6,
  length: 6,
  carat,
  worth: null,
});

const split: Split = {
  trim: { normal: { x: 1, y: 0, z: 0 }, distance: 0.2, kerf: 0.4 },
  kerfCarats: 0.3,
  carats: 4.5,
  stones: [stone('Meridian', 3), stone('Ecliptic', 1.5)],
  worth: null,
};

function open(p = piece(), found = split) {
  const put: PieceForm[] = [];
  serve({
    'GET /api/rough/p': () => p,
    'GET /api/usual': () => usual,
    'GET /api/solids/hash': () => cube,
    'GET /api/rough/p/splits': () =>
      new Response(JSON.stringify({ done: 5, total: 5, ended: 'complete', found: [found] }) + '\n'),
    'PUT /api/rough/p': (body: PieceForm) => {
      put.push(body);
      return { ...piece(), ...body, version: 4 };
    },
  });
  renderInApp(<TwoStonesRoom />, '/rough/p/two', '/rough/:id/two');
  return put;
}

test('two stones are held against one by weight, and the saw cut is put into the piece', async () => {
  const put = open();
  // 4.5 ct against 4 ct.
  await screen.findByText(k.heavier('0.500 ct'));
  fireEvent.click(screen.getByText(k.take(1)));
  await waitFor(() =>
    expect(put.map((p) => [p.rough.trims, p.version])).toEqual([[[split.trim], 3]]),
  );
});

test('where prices are known the worth decides: large stones bring more by the carat', async () => {
  const [large, small] = split.stones as [Split['stones'][number], Split['stones'][number]];
  const found = { ...split, stones: [{ ...large, worth: 180_00 }, small], worth: 180_00 };
  // 3 ct at 60.00, and one without a price, against 4 ct at 100.00.
  open(piece({ candidates: [{ ...candidate, worth: 400_00 }] }), found);
  await screen.findByText((text) => text.startsWith('Worth less, by') && text.includes('220'));
  expect(screen.getAllByText((text) => text.includes(k.tooLight))).toHaveLength(1);
});
