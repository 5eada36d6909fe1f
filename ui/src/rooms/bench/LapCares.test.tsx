import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import type { BenchScript } from '../../api/client';
import type { Happened } from '../../api/kit';
import { renderInApp } from '../../testing/app';
import { Refused, serve } from '../../testing/server';
import { kitWords as k } from '../../words/kit';
import { LapCares } from './LapCares';

afterEach(cleanup);

/** Two visits of one pass: its lap goes on at the first. */
const scriptOf = (change: object = {}) =>
  ({
    visits: [
      { pass: 'cut', move: { first: true, pass: false } },
      { pass: 'cut', move: { first: false, pass: false } },
    ],
    lapCares: [
      {
        pass: 'cut',
        lap: '600',
        lapItem: 'i1',
        texts: ['It met 60 µm diamond.'],
        way: { way: 'scrub', text: 'Scrub it with soap.' },
      },
    ],
    ...change,
  }) as unknown as BenchScript;

function open(script: BenchScript, at: number, answer: () => unknown = () => ({})) {
  const told: Happened[] = [];
  serve({
    'POST /api/kit/i1/log': (body: Happened) => {
      told.push(body);
      return answer();
    },
  });
  const reread = vi.fn(async () => {});
  renderInApp(<LapCares script={script} at={at} reread={reread} />);
  return { told, reread };
}

test('where its lap goes on the cutter is warned, and can say that it was cleaned', async () => {
  const { told, reread } = open(scriptOf(), 0);
  expect(screen.getByText(/It met 60 µm diamond\. Scrub it with soap\./)).toBeTruthy();
  fireEvent.click(screen.getByText(k.ways.scrub!));
  await waitFor(() => expect(reread).toHaveBeenCalled());
  expect(told).toMatchObject([{ kind: 'cleaned', way: 'scrub' }]);
});

test('nothing but another lap takes it out: that is noted as a new one', async () => {
  const [care] = scriptOf().lapCares;
  const { told } = open(
    scriptOf({ lapCares: [{ ...care, way: { way: 'renew', text: 'New.' } }] }),
    0,
  );
  fireEvent.click(screen.getByText(k.ways.renew!));
  await waitFor(() => expect(told).toMatchObject([{ kind: 'renewed', way: '' }]));
});

test('a refusal is told and the warning stays', async () => {
  const { reread } = open(scriptOf(), 0, () => new Refused(422, { detail: 'Not for this lap.' }));
  fireEvent.click(screen.getByText(k.ways.scrub!));
  expect(await screen.findByText('Not for this lap.')).toBeTruthy();
  expect(reread).not.toHaveBeenCalled();
  expect(screen.getByText(/It met 60 µm diamond/)).toBeTruthy();
});

test('through the rest of the pass it is a line, and a script of an older build says nothing', () => {
  open(scriptOf(), 1);
  expect(screen.getByText(k.atBench.dirty('600'))).toBeTruthy();
  expect(screen.queryByText(/Scrub/)).toBeNull();
  cleanup();
  open(scriptOf({ lapCares: undefined }), 0);
  expect(screen.queryByText(/600/)).toBeNull();
});
