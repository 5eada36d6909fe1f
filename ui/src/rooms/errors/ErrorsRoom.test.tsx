import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Draft, ToleranceLine, ToleranceRequest } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { diagramOf, draftOf, tierOf, usual } from '../../testing/records';
import { Refused, serve } from '../../testing/server';
import { errorWords as e } from '../../words/errors';
import { ErrorsRoom } from './ErrorsRoom';

afterEach(cleanup);

const draft = draftOf({ name: 'Lantern', tiers: [tierOf()] });

/** Opens the room at a server that is at work, or was, on what was asked. */
function open(asked?: { draft: Draft; angle: number; trials: number }) {
  const started: ToleranceRequest[] = [];
  const stopped: string[] = [];
  const encoder = new TextEncoder();
  let tell: (line: Partial<ToleranceLine>) => void = () => {};
  let end = () => {};
  const follow = () =>
    new Response(
      new ReadableStream({
        start(stream) {
          tell = (line) => stream.enqueue(encoder.encode(`${JSON.stringify(line)}\n`));
          end = () => stream.close();
          const all = { width: 8, index: 0, depth: 0.01, material: '', ...asked };
          if (asked) tell({ done: 20, total: asked.trials, asked: all as never });
        },
      }),
    );
  serve({
    'GET /api/diagrams/d1': () => diagramOf({ draft }),
    'GET /api/diagrams/d1/tolerance': follow,
    'POST /api/diagrams/d1/tolerance': (body: never) => void started.push(body),
    'DELETE /api/diagrams/d1/tolerance': (_: never, path: string) => void stopped.push(path),
    'GET /api/tolerance': () => ({
      machine: 'By the window',
      angle: 0.05,
      index: 0.1,
      depth: 0.01,
      trials: 16000,
    }),
    'GET /api/usual': () => usual,
    'POST /api/solve': () => new Refused(422, { detail: 'not drawn here' }),
  });
  renderInApp(<ErrorsRoom />, '/diagrams/d1/errors', '/diagrams/:id/errors');
  return { started, stopped, tell: (l: Partial<ToleranceLine>) => tell(l), end: () => end() };
}

const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const type = (label: string, value: string) =>
  fireEvent.change(field(label), { target: { value } });

test('trials begin with what the machine repeats, and not with a figure that cannot be read', async () => {
  const { started } = open();
  await screen.findByText('By the window');
  expect(field(e.angle).value).toBe('0.05');
  type(e.angle, '5.1');
  expect(screen.getByText<HTMLButtonElement>(e.start).disabled).toBe(true);
  type(e.angle, '0,2');
  fireEvent.click(screen.getByText(e.start));
  await waitFor(() => expect(started).toHaveLength(1));
  expect(started[0]).toMatchObject({
    angle: 0.2,
    index: 0.1,
    depth: 0.01,
    width: 8,
    trials: 16000,
  });
});

test('trials that are under way are found again with what they were asked, and can be stopped', async () => {
  const { stopped, tell, end } = open({ draft, angle: 0.3, trials: 2000 });
  expect(await screen.findByText(e.progress(20, 2000))).toBeTruthy();
  expect(field(e.angle).value).toBe('0.3');
  fireEvent.click(screen.getByText(e.cancel));
  await waitFor(() => expect(stopped).toHaveLength(1));
  tell({ done: 40, total: 2000, ended: 'stopped' });
  end();
  expect(await screen.findByText(e.stopped)).toBeTruthy();
  expect(screen.getByText(e.start)).toBeTruthy();
});

test('trials that failed say so, and what is typed while they run stays', async () => {
  const { tell, end } = open({ draft, angle: 0.3, trials: 100 });
  await screen.findByText(e.progress(20, 100));
  type(e.angle, '0.4');
  tell({ done: 60, total: 100 });
  expect(await screen.findByText(e.progress(60, 100))).toBeTruthy();
  tell({ done: 60, total: 100, ended: 'failed' });
  end();
  expect(await screen.findByText(e.failed)).toBeTruthy();
  expect(field(e.angle).value).toBe('0.4');
});
