import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import type { DiagramLine } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { w } from '../../words/words';
import { libraryWords as l } from '../../words/library';
import { DiagramsRoom } from './DiagramsRoom';

afterEach(cleanup);

const line = (id: string, name: string): DiagramLine => ({
  ...{ id, name, revision: '', version: 1, starter: false, edited: true },
  ...{ facts: null, judged: null },
});

/** A library of two diagrams that can be deleted and brought back. */
function open(at = '/diagrams') {
  const library = new Map([
    ['a', line('a', 'Lantern')],
    ['b', line('b', '')],
  ]);
  const asked: URL[] = [];
  const gone = new Map<string, DiagramLine>();
  vi.stubGlobal('fetch', async (request: Request) => {
    const url = new URL(request.url);
    const id = url.pathname.split('/')[3] ?? '';
    if (request.method === 'DELETE') {
      gone.set(id, library.get(id)!);
      library.delete(id);
      return new Response(null, { status: 204 });
    }
    if (url.pathname.endsWith('/restore')) {
      library.set(id, gone.get(id) ?? library.get(id)!);
      return Response.json({ id });
    }
    if (url.pathname === '/api/materials')
      return Response.json({ materials: [{ name: 'Spinel' }] });
    if (request.method === 'POST') return Response.json({ id: 'new' });
    asked.push(url);
    const diagrams = [...library.values()].filter((d) =>
      d.name.includes(url.searchParams.get('text') ?? ''),
    );
    const { size: total } = library;
    const of = { outlines: ['oval'], gears: ['96'], waiting: 0 };
    return Response.json({ diagrams, next: '', total, ...of });
  });
  return { ...renderInApp(<DiagramsRoom />, at), asked, latest: () => asked.at(-1)!.searchParams };
}

const type = (label: string, value: string, nth = 0) =>
  fireEvent.change(screen.getAllByLabelText(label)[nth]!, { target: { value } });

test('a filter is asked in figures, and what is no figure yet bounds nothing', async () => {
  const { latest, router } = open('/diagrams?outline=oval&ratioFrom=1,2');
  await screen.findByText('Lantern');
  expect(Object.fromEntries(latest())).toMatchObject({ outline: 'oval', ratioFrom: '1.2' });
  fireEvent.click(screen.getByText(l.filter.further(1)));
  type(w.diagrams.facetsFrom, '-4');
  await waitFor(() => expect(latest().get('facetsFrom')).toBe('0'));
  type(w.diagrams.facetsFrom, 'many');
  await waitFor(() => expect(latest().get('facetsFrom')).toBeNull());
  type(w.diagrams.facetsTo, '99.6');
  await waitFor(() => expect(latest().get('facetsTo')).toBe('100'));
  fireEvent.click(screen.getByLabelText(l.filter.cuttable));
  await waitFor(() => expect(latest().get('cuttable')).toBe('true'));
  expect(router.state.location.search).toContain('from=many');
  expect(router.state.location.search).toContain('cuttable=1');
});

test('a diagram that is deleted goes at once, and Undo brings it back', async () => {
  open();
  fireEvent.click(await screen.findByLabelText(l.actions('Lantern')));
  fireEvent.click(screen.getByText(w.diagrams.delete));
  expect(await screen.findByText(w.diagrams.deleted('Lantern'))).toBeTruthy();
  await waitFor(() => expect(screen.queryByRole('heading', { name: 'Lantern' })).toBeNull());
  fireEvent.click(screen.getByRole('button', { name: w.common.undo }));
  expect(await screen.findByRole('heading', { name: 'Lantern' })).toBeTruthy();
});

test('what was deleted is listed after a reload too, and brought back from there', async () => {
  const { latest } = open('/diagrams?deleted=1');
  await screen.findByText('Lantern');
  expect(latest().get('deleted')).toBe('true');
  // It has no page meanwhile.
  expect(screen.queryByRole('link', { name: /Lantern/ })).toBeNull();
  fireEvent.click(screen.getByLabelText(`${l.restore}: Lantern`));
  await waitFor(() => expect(screen.getByText('Lantern')).toBeTruthy());
});

test('a diagram without a name is called so, and can be told from the others', async () => {
  open();
  expect(await screen.findByRole('heading', { name: w.diagrams.noName })).toBeTruthy();
  fireEvent.click(screen.getByLabelText(l.actions(w.diagrams.noName)));
  expect(screen.getByText(w.diagrams.copy)).toBeTruthy();
  // What has no version yet cannot be exported.
  expect(screen.queryByText(l.exportAs)).toBeNull();
});

test('where nothing fits, the filter can be cleared or a diagram begun', async () => {
  const { router } = open('/diagrams?q=Comet&sort=facets');
  expect(await screen.findByText(w.diagrams.nothing)).toBeTruthy();
  fireEvent.click(screen.getByText(w.diagrams.clear));
  expect(await screen.findByText('Lantern')).toBeTruthy();
  expect(router.state.location.search).toBe('');
  fireEvent.click(screen.getByText(w.diagrams.new));
  await waitFor(() => expect(router.state.location.pathname).toBe('/diagrams/new'));
  expect(router.state.location.search).toBe('?edit=1');
});
