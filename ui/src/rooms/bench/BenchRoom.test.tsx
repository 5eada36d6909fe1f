import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { BenchScript } from '../../api/client';
import { kept, log, sender } from '../../log/browser';
import { randomID } from '../../api/making';
import { streamOf } from '../../log/events';
import { renderInApp } from '../../testing/app';
import { serveLogs } from '../../testing/logs';
import { benchFacetOf, scriptOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { diskWords } from '../../words/disk';
import { machineWords } from '../../words/machine';
import { w } from '../../words/words';
import { BenchRoom } from './BenchRoom';

beforeEach(async () => {
  localStorage.clear();
  await Promise.all([kept.events.clear(), kept.refused.clear(), kept.works.clear()]);
});
afterEach(async () => {
  cleanup();
  vi.restoreAllMocks();
  // What is on its way would come to the next test's server.
  await waitFor(() => expect(log.status().waiting).toBe(0));
});

type Logs = ReturnType<typeof serveLogs>;

/** Opens the bench for a stone whose log the server keeps. */
async function open(change: Partial<BenchScript> = {}) {
  const logs = serveLogs();
  const script = scriptOf({ workId: randomID(), ...change });
  const server = { script };
  serve({ ...logs.answers, 'GET /api/stones/a/script': () => server.script });
  const shown = renderInApp(<BenchRoom />, '/bench/a', '/bench/:id');
  await screen.findByText(`7 · ${script.diagram} · Sphene`);
  return { ...shown, logs, server, stream: streamOf(script.workId) };
}

/** Something that was entered at the desk. */
function elsewhere(logs: Logs, stream: string, kind: string, payload: Record<string, unknown>) {
  const seq = logs.stored.length + 1;
  const at = { device: 'desk', deviceSeq: seq, deviceTime: '', serverTime: '' };
  logs.stored.push({ ...at, id: randomID(), stream, kind, version: 1, by: '', seq, payload });
}

const press = (key: string) => fireEvent.keyDown(document.body, { key });
const digits = () =>
  [...document.querySelectorAll('[data-digits]')].map((e) => e.textContent).join(' ');
const progress = () => screen.getByRole('status', { name: w.stones.progress }).textContent;
const ticks = () =>
  [...document.querySelectorAll('[data-tick]')].map((e) => e.getAttribute('data-tick'));
const kindsOf = (logs: Logs) => logs.stored.map((e) => e.kind);

test('Done ticks what stands on the screen, and a tick is filled when the server has it', async () => {
  const { logs } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  expect(ticks()).toEqual(['open', 'open', 'open']);
  press('Enter');
  expect(ticks()[0]).toBe('held');
  expect(digits()).toBe('48 41°');
  expect(progress()).toBe('1 of 4');
  await waitFor(() => expect(ticks()[0]).toBe('disk'));
  expect(logs.stored.map((e) => e.payload)).toEqual([{ setup: 's1', pass: 'cut', facet: 'f1' }]);
});

test('the bench goes by the angle to set, and says what it stands for', async () => {
  await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press(' ');
  press(' ');
  expect(digits()).toBe('24 41.5°');
  expect(screen.getByText(w.bench.reading('41.2'))).toBeTruthy();
});

test('on a machine with holes the bench shows hole and peg instead of degrees', async () => {
  const hole = { no: 7, height: 82, peg: 120, angle: 46.9 };
  await open({
    facets: scriptOf().facets.map((f) => ({ ...f, hole, below: 46.2, above: 47.6 })),
  });
  await waitFor(() => expect(digits()).toBe('96 7'));
  expect(
    screen.getByText(`${w.bench.peg('120', '46.9')} · ${w.bench.forAngle('41')}`),
  ).toBeTruthy();
});

test.each([
  ['round', w.bench.doneRound(2), '24 41.5°', 2],
  ['tier', w.bench.doneTier(3), '96 41°', 3],
] as const)(
  'a habit of ticking by %s ticks all of it at once',
  async (tick, word, next, ticked) => {
    const { logs } = await open({ tick });
    fireEvent.click(await screen.findByText(word));
    await waitFor(() => expect(logs.stored).toHaveLength(ticked));
    expect(progress()).toBe(`${ticked} of 4`);
    if (tick === 'round') expect(digits()).toBe(next);
    else expect(screen.getByText(w.bench.transfer)).toBeTruthy();
  },
);

test('a habit that is chosen at the bench holds from then on', async () => {
  const { unmount } = await open();
  await screen.findByText(w.bench.done);
  fireEvent.mouseDown(screen.getByRole('combobox', { name: new RegExp(w.bench.tick) }));
  fireEvent.click(await screen.findByRole('option', { name: machineWords.ticks.tier }));
  expect(screen.getByText(w.bench.doneTier(3))).toBeTruthy();
  unmount();
  // A reload keeps it.
  renderInApp(<BenchRoom />, '/bench/a', '/bench/:id');
  expect(await screen.findByText(w.bench.doneTier(3))).toBeTruthy();
});

test('nothing is ticked, skipped or taken back before the log was read', async () => {
  vi.spyOn(sender, 'catchUp').mockImplementation(() => new Promise(() => {}));
  const { logs, stream } = await open();
  for (const key of ['Enter', 's', 'Backspace']) press(key);
  expect(digits()).toBe('');
  expect(progress()).toBe('');
  expect(log.snapshot(stream).events).toEqual([]);
  expect(logs.stored).toEqual([]);
});

test('Skip leaves a facet out, and Back takes back what was done last', async () => {
  const { logs, stream } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press('Enter');
  press('s');
  expect(progress()).toBe('1 of 4');
  expect(screen.getByRole('button', { name: w.bench.skipped(1) })).toBeTruthy();
  press('Backspace');
  expect(digits()).toBe('48 41°');
  press('ArrowLeft');
  expect(digits()).toBe('96 41°');
  // There is nothing left to take back.
  press('Backspace');
  await waitFor(() => expect(kindsOf(logs)).toEqual(['done', 'skip', 'undo', 'undo']));
  expect(log.snapshot(stream).state.marks.size).toBe(0);
});

test('Back over a whole tier takes back all marks of the tier that was cut last', async () => {
  const { logs } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press('Enter');
  // One mark is taken back by Back alone.
  expect(screen.queryByText(w.bench.backTier('P1', 1))).toBeNull();
  press('Enter');
  fireEvent.click(screen.getByText(w.bench.backTier('P1', 2)));
  expect(progress()).toBe('0 of 4');
  await waitFor(() => expect(kindsOf(logs)).toEqual(['done', 'done', 'undo', 'undo']));
});

test('what was skipped is listed at the end of the pass, with the way to it', async () => {
  const { facets, visits } = scriptOf();
  await open({
    passes: [
      { id: 'cut', name: 'Cut', lap: '600', compound: '', lapItem: '', compoundItem: '' },
      {
        id: 'polish',
        name: 'Polish',
        lap: 'tin',
        compound: 'alumina',
        lapItem: '',
        compoundItem: '',
      },
    ],
    facets: facets.slice(0, 3),
    visits: [
      ...visits.slice(0, 3),
      ...[0, 1, 2].map((i) => ({
        ...{ ...visits[i]!, pass: 'polish', first: false, block: 1 },
        stop: 'until the 600 scratches are gone; hold the meet',
        roundEnd: i + 4,
        blockEnd: 6,
      })),
    ],
  });
  await waitFor(() => expect(digits()).toBe('96 41°'));
  for (const key of ['s', 'Enter', 's']) press(key);
  expect(screen.getByText(w.bench.endOfPass('Cut · 600'))).toBeTruthy();
  expect(screen.getByText(w.bench.skippedHead(2))).toBeTruthy();
  // Done does not run on over the list.
  press('Enter');
  expect(progress()).toBe('1 of 6');
  const cutNow = (tooth: number) =>
    screen.getByRole('button', { name: new RegExp(`P1 at ${tooth} · Cut`) });
  fireEvent.click(cutNow(24));
  expect(digits()).toBe('24 41.5°');
  press('Enter');
  expect(progress()).toBe('2 of 6');
  fireEvent.click(cutNow(96));
  press('s');
  expect(screen.getByText(w.bench.skippedHead(1))).toBeTruthy();
  fireEvent.click(screen.getByText(w.bench.goOn));
  expect(screen.getByText('until the 600 scratches are gone; hold the meet')).toBeTruthy();
  // From the head it is found again, and a later pass settles it.
  fireEvent.click(screen.getByRole('button', { name: w.bench.skipped(1) }));
  expect(cutNow(96)).toBeTruthy();
  press('o');
  press('Enter');
  expect(screen.queryByRole('button', { name: w.bench.skipped(1) })).toBeNull();
  expect(progress()).toBe('4 of 6');
});

test('the table is fitted on the adapter, cut through its laps, and the adapter comes off', async () => {
  const { facets, visits } = scriptOf();
  const { logs } = await open({
    facets: [facets[0]!, benchFacetOf({ id: 't', tier: 'T', part: 'crown', adapter: true })],
    visits: [
      { ...visits[0]!, roundEnd: 1, blockEnd: 1 },
      { ...visits[1]!, adapter: true, roundEnd: 2, blockEnd: 2 },
    ],
    checks: [
      {
        gate: 'adapter-on',
        setup: '',
        from: '',
        item: 'adapter-fit',
        text: 'Protractor at 45°.',
        minutes: 0,
        caution: '',
      },
    ],
  });
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press('Enter');
  expect(screen.getByText(w.bench.adapterOn)).toBeTruthy();
  press('Enter');
  fireEvent.click(screen.getByRole('checkbox', { name: /45°/ }));
  fireEvent.click(screen.getByText(w.bench.adapterOnGo));
  expect(screen.getByText(w.bench.adapter)).toBeTruthy();
  press('Enter');
  fireEvent.click(screen.getByText(w.bench.adapterOffGo));
  expect(screen.getByText(w.bench.allDone)).toBeTruthy();
  await waitFor(() => expect(kindsOf(logs)).toEqual(['done', 'check', 'check', 'done', 'check']));
  expect(logs.stored.slice(-1)[0]!.payload).toEqual({ setup: 's1', item: 'adapter-off' });
});

test('a changed plan covers the bench, and nothing is cut before it was read', async () => {
  const { logs, server, stream } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  elsewhere(logs, stream, 'plan', { no: 2, runs: [] });
  await sender.catchUp(server.script.workId, stream);
  expect(await screen.findByText(diskWords.newPlan(2))).toBeTruthy();
  press('Enter');
  press('Backspace');
  expect(progress()).toBe('0 of 4');
  // The network is away: the plan cannot be read, and that is said.
  const read = screen.getByRole('button', { name: diskWords.takePlan });
  fireEvent.click(read);
  expect(await screen.findByText(diskWords.planAway)).toBeTruthy();
  server.script = scriptOf({
    workId: server.script.workId,
    planNo: 2,
    facets: server.script.facets.map((f) => ({ ...f, reading: 42.5, angle: 42.5 })),
  });
  fireEvent.click(read);
  await waitFor(() => expect(digits()).toBe('96 42.5°'));
  press('Enter');
  expect(progress()).toBe('1 of 4');
});

test('the stone is turned over by a button and never by the key for Done', async () => {
  const { logs } = await open({ tick: 'tier' });
  fireEvent.click(await screen.findByText(w.bench.doneTier(3)));
  expect(screen.getByText(w.bench.transferLead(w.drawing.crown))).toBeTruthy();
  press('Enter');
  press('s');
  const check = screen.getByRole<HTMLInputElement>('checkbox', { name: /notch/ });
  fireEvent.click(check);
  expect(check.checked).toBe(true);
  fireEvent.click(check);
  expect(check.checked).toBe(false);
  fireEvent.click(screen.getByText(w.bench.transferGo));
  await waitFor(() => expect(digits()).toBe('96 41°'));
  await waitFor(() =>
    expect(kindsOf(logs)).toEqual(['done', 'done', 'done', 'check', 'undo', 'transfer']),
  );
  expect(logs.stored.at(-1)!.payload).toEqual({ setup: 's2' });
  // Back from the first facet of the new side leads to the transfer again.
  press('Backspace');
  expect(screen.getByText(w.bench.transfer)).toBeTruthy();
});

test('after the last facet the card is offered, and Back still goes back', async () => {
  const { facets, visits } = scriptOf();
  await open({ facets: facets.slice(0, 1), visits: [{ ...visits[0]!, roundEnd: 1, blockEnd: 1 }] });
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press('Enter');
  expect(screen.getByText(w.bench.finish).getAttribute('href')).toBe('/stones/a/card');
  fireEvent.click(screen.getByRole('button', { name: w.bench.back }));
  expect(digits()).toBe('96 41°');
});

test('a finished stone is not cut on, and says what came in after its card', async () => {
  const { logs, server, stream } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  elsewhere(logs, stream, 'finish', {});
  elsewhere(logs, stream, 'note', { text: 'one more look' });
  await sender.catchUp(server.script.workId, stream);
  expect(await screen.findByText(w.bench.finished)).toBeTruthy();
  expect(screen.getByText(w.bench.late(1))).toBeTruthy();
  press('Enter');
  press('s');
  expect(log.snapshot(stream).events).toHaveLength(2);
  expect(screen.queryByText(w.bench.finish)).toBeNull();
});

test('while a note is typed the keys of the bench are letters, and an empty one is not kept', async () => {
  const { logs } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press('n');
  const dialog = await screen.findByRole('dialog');
  const field = within(dialog).getByRole('textbox');
  const keep = within(dialog).getByText<HTMLButtonElement>(w.bench.noteKeep);
  expect(keep.disabled).toBe(true);
  fireEvent.change(field, { target: { value: '   ' } });
  fireEvent.submit(field);
  for (const key of ['s', 'n', 'c', 'Backspace']) fireEvent.keyDown(field, { key });
  fireEvent.change(field, { target: { value: ' a chip at the girdle ' } });
  fireEvent.click(keep);
  await waitFor(() => expect(kindsOf(logs)).toEqual(['note']));
  expect(logs.stored[0]).toMatchObject({ version: 2 });
  expect(logs.stored[0]!.payload).toEqual({
    text: 'a chip at the girdle',
    at: { setup: 's1', pass: 'cut', facet: 'f1' },
  });
  expect(progress()).toBe('0 of 4');
});

test('what a machine cannot do is said where it is dialled', async () => {
  await open({
    cheater: 'none',
    cheatGap: 31,
    facets: [
      benchFacetOf({
        dial: { tooth: 13, cheat: 0.23, cheatTurns: 0, azimuth: 0 },
        ...{ angle: 41.2, below: 41, above: 41.5 },
        division: { deeper: 0.04, girdle: 0.012, rising: false },
        note: 'lightly',
      }),
    ],
    visits: scriptOf().visits.slice(0, 1),
  });
  expect(await screen.findByText(w.bench.cheatMissing('+0.23'))).toBeTruthy();
  expect(screen.getByText(w.bench.noCheater('31 µm'))).toBeTruthy();
  expect(screen.getByText(new RegExp(w.bench.between('41', '41.5')))).toBeTruthy();
  expect(screen.getByText(w.bench.division(false, '0.04', '0.012'))).toBeTruthy();
  expect(screen.getByText('lightly')).toBeTruthy();
});

test('Escape leaves to the stone, and what was fetched opens the bench without the server', async () => {
  const { logs, server, unmount, router } = await open();
  await waitFor(() => expect(digits()).toBe('96 41°'));
  press('Enter');
  await waitFor(() => expect(logs.stored).toHaveLength(1));
  press('Escape');
  await waitFor(() => expect(router.state.location.pathname).toBe('/stones/a'));
  unmount();
  serve({});
  renderInApp(<BenchRoom />, '/bench/a', '/bench/:id');
  await waitFor(() => expect(digits()).toBe('48 41°'));
  expect(screen.getByText(`7 · ${server.script.diagram} · Sphene`)).toBeTruthy();
});
