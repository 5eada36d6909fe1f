import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { renderInApp } from '../../testing/app';
import { Refused, serve } from '../../testing/server';
import { w } from '../../words/words';
import { useDiagramActions } from './useDiagramActions';

afterEach(cleanup);

function Actions() {
  const actions = useDiagramActions();
  return (
    <>
      <button onClick={() => actions.remove({ id: 'd1', name: 'Meridian' })}>delete</button>
      <button onClick={() => actions.copy.mutate('d1')}>copy</button>
    </>
  );
}

test('a diagram that is deleted can be brought back, and where that fails it is said', async () => {
  serve({
    'DELETE /api/diagrams/d1': () => undefined,
    'POST /api/diagrams/d1/restore': () =>
      new Refused(404, { detail: 'It was deleted too long ago.' }),
  });
  renderInApp(<Actions />);
  fireEvent.click(screen.getByText('delete'));
  expect(await screen.findByText(w.diagrams.deleted('Meridian'))).toBeTruthy();
  fireEvent.click(screen.getByText(w.common.undo));
  expect(await screen.findByText('It was deleted too long ago.')).toBeTruthy();
});

test('nothing is done silently where the server is away', async () => {
  serve({});
  renderInApp(<Actions />);
  fireEvent.click(screen.getByText('delete'));
  expect(await screen.findByText(w.common.unreachable)).toBeTruthy();
  expect(screen.queryByText(w.diagrams.deleted('Meridian'))).toBeNull();
});
