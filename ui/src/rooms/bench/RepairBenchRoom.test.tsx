import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { log, sender } from '../../log/browser';
import { randomID } from '../../api/making';
import { streamOf } from '../../log/events';
import { renderInApp } from '../../testing/app';
import { serveLogs } from '../../testing/logs';
import { repairOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { repairWords as r } from '../../words/repairs';
import { RepairBenchRoom } from './RepairBenchRoom';

afterEach(async () => {
  cleanup();
  vi.useRealTimers();
  await waitFor(() => expect(log.status().waiting).toBe(0));
});

async function open() {
  const logs = serveLogs();
  const workId = randomID();
  const page = repairOf({ workId, state: 'cutting' });
  serve({ ...logs.answers, 'GET /api/repairs/a': () => page });
  renderInApp(<RepairBenchRoom />, '/bench/repair/a', '/bench/repair/:id');
  await waitFor(() => expect(clock()).toBe('0:00:00'));
  return { logs, workId };
}

const press = (key: string) => fireEvent.keyDown(document.body, { key });
const clock = () => document.querySelector('[data-clock]')?.textContent;
const kindsOf = (logs: ReturnType<typeof serveLogs>) => logs.stored.map((e) => e.kind);

test('the time at the bench is counted by begin and pause, and begun again where it was', async () => {
  vi.useFakeTimers({ toFake: ['Date', 'setInterval', 'clearInterval'], shouldAdvanceTime: false });
  const { logs } = await open();
  const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);
  press('Enter');
  expect(screen.getByText(new RegExp(r.running))).toBeTruthy();
  await pass(65_000);
  await waitFor(() => expect(clock()).toBe('0:01:05'));
  press(' ');
  await pass(600_000);
  expect(clock()).toBe('0:01:05');
  expect(screen.getByText(new RegExp(r.paused))).toBeTruthy();
  press('Enter');
  await pass(10_000);
  await waitFor(() => expect(clock()).toBe('0:01:15'));
  await waitFor(() => expect(kindsOf(logs)).toEqual(['begin', 'end', 'begin']));
});

test('what was agreed stands there, and a note is kept with it', async () => {
  const { logs } = await open();
  expect(screen.getByText('a chip at the girdle')).toBeTruthy();
  expect(screen.getByText('cut the chip out')).toBeTruthy();
  press('n');
  const field = await screen.findByRole('textbox');
  fireEvent.change(field, { target: { value: 'the chip is out' } });
  fireEvent.submit(field);
  expect(await screen.findByText('the chip is out')).toBeTruthy();
  await waitFor(() => expect(kindsOf(logs)).toEqual(['note']));
});

test('of a stone that was given back no more time is counted', async () => {
  const { logs, workId } = await open();
  logs.stored.push({
    ...{ id: randomID(), stream: streamOf(workId), kind: 'finish', version: 1, payload: {} },
    ...{ device: 'desk', deviceSeq: 1, deviceTime: '', serverTime: '', by: '', seq: 1 },
  });
  await sender.catchUp(workId, streamOf(workId));
  expect(await screen.findByText(r.closed)).toBeTruthy();
  press('Enter');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: r.begin }).disabled).toBe(true);
  expect(log.snapshot(streamOf(workId)).events).toHaveLength(1);
});
