import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Fitting, Variant, VariantLine } from '../../api/rough';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { usual } from '../../testing/records';
import { candidate, piece } from '../../testing/rough';
import { serve } from '../../testing/server';
import { variantWords as k } from '../../words/variants';
import { VariantsRoom } from './VariantsRoom';

afterEach(cleanup);

const variant = (change: Partial<Variant>): Variant => ({
  name: 'Meridian',
  draft: { name: 'Meridian' } as Variant['draft'],
  asDrawn: false,
  pavilion: 42,
  margin: 4,
  crown: 1,
  without: [],
  solid: cube,
  place: candidate.place!,
  width: 8.4,
  length: 11,
  height: 6,
  carat: 4,
  yield: 0.3,
  facets: 57,
  hours: 3,
  return: 0.5,
  window: 0,
  flaws: [{ flaw: 0, images: 3, share: 0.02 }],
  limitedBy: [],
  ...change,
});

const drawn = variant({ asDrawn: true });
const flat = variant({ name: 'Meridian, pavilion 40', pavilion: 40.000001, width: 8.9 });
const bare = variant({ name: 'Meridian without C3', without: ['C3'], facets: 49, hours: 2.5 });

test('changes are held against the diagram as drawn, and one becomes a candidate', async () => {
  const kept: unknown[] = [];
  const searched: Fitting[] = [];
  const line = (found: Variant | null, done: number): VariantLine => ({
    candidate: 'c',
    done,
    total: 3,
    ended: done === 3 ? 'complete' : '',
    found,
  });
  serve({
    'GET /api/rough/p': () => piece(),
    'GET /api/usual': () => usual,
    'GET /api/rough/p/variants': () =>
      new Response(
        [line(drawn, 1), line(flat, 2), line(bare, 3)].map((l) => JSON.stringify(l)).join('\n') +
          '\n',
      ),
    'POST /api/diagrams/d/variant': (body: unknown) => {
      kept.push(body);
      return { id: 'new' };
    },
    'POST /api/rough/p/fit': (body: Fitting) => void searched.push(body),
  });
  renderInApp(<VariantsRoom />, '/rough/p/vary/c', '/rough/:id/vary/:candidate');
  await screen.findByText(k.marks.widest);
  expect(screen.getByText(k.leaving(['C3']))).toBeTruthy();
  // Nothing is done with the diagram as it is.
  expect(screen.queryByText(k.keep)).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: new RegExp(bare.name) }));
  expect(screen.getByText('49 (−8)')).toBeTruthy();
  expect(screen.getByText('2.5 (−0.5)')).toBeTruthy();
  fireEvent.click(screen.getByText(k.keep));
  await waitFor(() =>
    expect(searched).toEqual([{ diagrams: ['new'], allowance: 0.3, costs: false, rounds: 1 }]),
  );
  expect(kept).toEqual([{ draft: bare.draft }]);
});
