import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { RunScript } from '../../api/client';
import { log, sender } from '../../log/browser';
import { randomID } from '../../api/making';
import { streamOf } from '../../log/events';
import { renderInApp } from '../../testing/app';
import { serveLogs } from '../../testing/logs';
import { scriptOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { runWords } from '../../words/runs';
import { w } from '../../words/words';
import { RunBenchRoom } from './RunBenchRoom';

afterEach(async () => {
  cleanup();
  await waitFor(() => expect(log.status().waiting).toBe(0));
});

/** Opens the bench of a run of two stones of two facets: one tier below, one above. */
async function open(order: 'tier' | 'stone') {
  const logs = serveLogs();
  const works = [randomID(), randomID()];
  const { facets, visits, ...script } = scriptOf({ workId: works[0] });
  const two = [0, 3].map((i) => ({ ...visits[i]!, block: i, blockEnd: i + 1, roundEnd: i + 1 }));
  const run: RunScript = {
    run: { id: 'r1', name: 'Lanterns', order, created: '' },
    script: { ...script, facets, visits: two },
    stones: works.map((workId, i) => ({
      id: `stone${i}`,
      workId,
      number: 10 + i,
      name: '',
      planNo: 1,
      finished: false,
      setups: script.setups.map((s) => ({ ...s, id: `${s.id} of ${i}` })),
    })),
  };
  // The script is that of the first stone, with its setups.
  run.script.setups = run.stones[0]!.setups;
  run.script.visits = two.map((v) => ({ ...v, setup: `${v.setup} of 0` }));
  serve({ ...logs.answers, 'GET /api/runs/r1/script': () => run });
  renderInApp(<RunBenchRoom />, '/bench/run/r1', '/bench/run/:id');
  await waitFor(() => expect(atWheel()).toBe('10'));
  return { logs, works };
}

const press = (key: string) => fireEvent.keyDown(document.body, { key });
const atWheel = () => document.querySelector('[data-stone]')?.getAttribute('data-stone');
const turnOver = () => fireEvent.click(screen.getByText(w.bench.transferGo));
const done = (logs: ReturnType<typeof serveLogs>) =>
  logs.stored.filter((e) => e.kind === 'done').map((e) => [e.stream, e.payload.setup]);

test('tier by tier the next stone comes to the wheel after each tier', async () => {
  const { logs, works } = await open('tier');
  press('Enter');
  expect(atWheel()).toBe('11');
  press('Enter');
  expect(atWheel()).toBe('10');
  turnOver();
  press('Enter');
  expect(atWheel()).toBe('11');
  turnOver();
  press('Enter');
  expect(screen.getByText(runWords.done)).toBeTruthy();
  // Each stone's log names its own setups.
  await waitFor(() =>
    expect(done(logs)).toEqual([
      [streamOf(works[0]!), 's1 of 0'],
      [streamOf(works[1]!), 's1 of 1'],
      [streamOf(works[0]!), 's2 of 0'],
      [streamOf(works[1]!), 's2 of 1'],
    ]),
  );
});

test('stone by stone one is cut whole before the next', async () => {
  await open('stone');
  press('Enter');
  expect(atWheel()).toBe('10');
  turnOver();
  press('Enter');
  expect(atWheel()).toBe('11');
});

test('Back takes back what was done last in the run, and brings its stone to the wheel', async () => {
  const { works } = await open('tier');
  press('Enter');
  press('Enter');
  press('Backspace');
  expect(atWheel()).toBe('11');
  press('Backspace');
  expect(atWheel()).toBe('10');
  for (const id of works) expect(log.snapshot(streamOf(id)).state.marks.size).toBe(0);
});

test('a stone that was finished at the desk is passed over, and Back leaves it alone', async () => {
  const { logs, works } = await open('tier');
  press('Enter');
  press('Enter');
  await waitFor(() => expect(logs.stored).toHaveLength(2));
  const stream = streamOf(works[1]!);
  logs.stored.push({
    ...logs.stored[1]!,
    ...{ id: randomID(), kind: 'finish', device: 'desk', seq: 3, payload: {} },
  });
  await sender.catchUp(works[1]!, stream);
  await waitFor(() => expect(log.snapshot(stream).state.finished).toBe(true));
  turnOver();
  press('Enter');
  expect(await screen.findByText(runWords.done)).toBeTruthy();
  // The cut, the turning over and the first cut of the same stone are taken back, and no more.
  fireEvent.click(screen.getByRole('button', { name: w.bench.back }));
  for (let i = 0; i < 3; i++) press('Backspace');
  expect(log.snapshot(streamOf(works[0]!)).state.marks.size).toBe(0);
  expect(log.snapshot(stream).state.marks.size).toBe(1);
});
