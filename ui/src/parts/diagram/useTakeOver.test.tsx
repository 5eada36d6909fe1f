import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { keptDrafts } from '../../drafts/browser';
import { renderInApp } from '../../testing/app';
import { diagramOf, draftOf } from '../../testing/records';
import { Refused, serve, stale } from '../../testing/server';
import { w } from '../../words/words';
import { TakeOverState } from './TakeOverState';
import { useTakeOver } from './useTakeOver';

afterEach(cleanup);

const diagram = diagramOf({ draft: draftOf({ name: 'Lantern' }), version: 3 });
const changed = draftOf({ name: 'Lantern', refractiveIndex: '1.72' });

function Taking() {
  const takeOver = useTakeOver(diagram, 'The angles were changed');
  return (
    <>
      <button onClick={() => takeOver.into(changed)}>take</button>
      <button onClick={() => takeOver.asVariant(changed)}>vary</button>
      <TakeOverState of={takeOver} />
    </>
  );
}

test('a changed draft becomes the draft, says so, and can be undone in the editor', async () => {
  const { asked } = serve({
    'PUT /api/diagrams/d1/draft': (body: { version: number }) =>
      diagramOf({ draft: changed, version: body.version + 1 }),
  });
  const { router } = renderInApp(<Taking />);
  fireEvent.click(screen.getByText('take'));
  expect(await screen.findByText('The angles were changed')).toBeTruthy();
  expect(asked).toEqual(['PUT /api/diagrams/d1/draft']);
  expect(router.state.location).toMatchObject({ pathname: '/diagrams/d1', search: '?edit=1' });
  const kept = (await keptDrafts.read('d1', changed))!;
  expect(kept.past.at(-1)!.value).toEqual(diagram.draft);
});

test('a draft that was changed elsewhere is shown beside it, and nothing is overwritten unasked', async () => {
  const theirs = diagramOf({ draft: draftOf({ name: 'Lantern of theirs' }), version: 8 });
  const versions: number[] = [];
  serve({
    'PUT /api/diagrams/d1/draft': (body: { version: number }) => {
      versions.push(body.version);
      return body.version === 8 ? diagramOf({ draft: changed, version: 9 }) : stale;
    },
    'GET /api/diagrams/d1': () => theirs,
  });
  renderInApp(<Taking />);
  fireEvent.click(screen.getByText('take'));
  expect(await screen.findByText('Lantern of theirs')).toBeTruthy();
  expect(versions).toEqual([3]);
  fireEvent.click(screen.getByText(w.conflict.mine));
  await waitFor(() => expect(versions).toEqual([3, 8]));
  expect(await screen.findByText('The angles were changed')).toBeTruthy();
});

test('a variant is one request, and where it is refused that is said', async () => {
  let refuse = true;
  const { asked } = serve({
    'POST /api/diagrams/d1/variant': (body: { draft: { name: string } }) =>
      refuse
        ? new Refused(422, { detail: 'It cannot be cut.' })
        : diagramOf({ id: 'd2', draft: draftOf(body.draft) }),
  });
  const { router } = renderInApp(<Taking />);
  fireEvent.click(screen.getByText('vary'));
  expect(await screen.findByText('It cannot be cut.')).toBeTruthy();
  refuse = false;
  fireEvent.click(screen.getByText('vary'));
  await waitFor(() => expect(router.state.location.pathname).toBe('/diagrams/d2'));
  expect(asked).toEqual(Array(2).fill('POST /api/diagrams/d1/variant'));
});
