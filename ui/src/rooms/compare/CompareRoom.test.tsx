import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { DraftTier } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { renderInApp } from '../../testing/app';
import { diagramOf, draftOf, tierOf, usual } from '../../testing/records';
import { Refused, serve } from '../../testing/server';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';
import { CompareRoom } from './CompareRoom';

afterEach(cleanup);

const v = editingWords.variants;

const diagram = (id: string, name: string, tiers: DraftTier[]) =>
  diagramOf({ id, draft: draftOf({ name, tiers }) });

const answers = {
  'GET /api/usual': () => usual,
  'GET /api/diagrams': () => ({ diagrams: [], next: '', total: 0 }),
  'POST /api/solve': () => new Refused(422, { detail: 'cannot be cut' }),
  'GET /api/diagrams/lantern': () => diagram('lantern', 'Lantern', [tierOf()]),
  'GET /api/diagrams/low': () =>
    diagram('low', 'Lantern, low', [
      tierOf({ angle: '40.5' }),
      tierOf({ key: 't2', name: 'P2', stop: 'size 1' }),
    ]),
  'GET /api/diagrams/gone': () => new Refused(404, { detail: 'There is no such diagram.' }),
};

test('only what differs is listed, and a tier that one of them lacks is said to be missing', async () => {
  serve(answers);
  renderInApp(<CompareRoom />, '/compare?ids=lantern,low');
  const table = within(await screen.findByRole('region', { name: v.differences }));
  const row = (label: string) =>
    [...table.getByText(label).closest('tr')!.querySelectorAll('td')].map((e) => e.textContent);
  expect(row(v.angle('P1'))).toEqual([v.angle('P1'), '41°', '40.5°']);
  expect(row(v.stop('P2'))).toEqual([v.stop('P2'), v.missing, 'size 1']);
  expect(table.queryByText(v.stop('P1'))).toBeNull();
  expect(table.queryByText(v.indexes('P1'))).toBeNull();
});

test('a diagram that is gone is left out, and one is taken out by its button', async () => {
  serve(answers);
  const { router } = renderInApp(<CompareRoom />, '/compare?ids=lantern,gone,low');
  fireEvent.click(await screen.findByText(v.take('Lantern')));
  await waitFor(() => expect(router.state.location.search).toBe('?ids=gone%2Clow'));
  expect(screen.getByRole('region', { name: 'Lantern, low' })).toBeTruthy();
  expect(screen.queryByRole('region', { name: 'Lantern' })).toBeNull();
});

test('another diagram is held beside those that are there, which stay meanwhile', async () => {
  let come: ((d: unknown) => void) | undefined;
  const slow = () => new Promise((done) => (come = done));
  serve({ ...answers, 'GET /api/diagrams/low': slow });
  const { router } = renderInApp(<CompareRoom />, '/compare?ids=lantern');
  const heading = await screen.findByRole('heading', { name: v.title });
  await act(() => router.navigate('/compare?ids=lantern,low'));
  expect(screen.getByRole('region', { name: 'Lantern' })).toBeTruthy();
  await waitFor(() => expect(come).toBeDefined());
  come!(answers['GET /api/diagrams/low']());
  expect(await screen.findByRole('region', { name: 'Lantern, low' })).toBeTruthy();
  // The page was not drawn anew: what had the focus has it still.
  expect(screen.getByRole('heading', { name: v.title })).toBe(heading);
});

test('while the server is away that is said, and what was there stays there', async () => {
  serve({});
  const first = renderInApp(<CompareRoom />, '/compare?ids=lantern');
  expect(await screen.findByText(w.common.unreachable)).toBeTruthy();
  expect(screen.queryByText(v.none)).toBeNull();
  serve(answers);
  fireEvent.click(screen.getByText(w.common.retry));
  expect(await screen.findByRole('region', { name: 'Lantern' })).toBeTruthy();
  serve({});
  await first.queries.refetchQueries(diagramQuery('lantern'));
  expect(screen.getByRole('region', { name: 'Lantern' })).toBeTruthy();
});
