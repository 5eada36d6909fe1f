import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { ApiProblem, Unreachable, type Diagram, type Draft, type Problem } from '../api/client';
import { change, historyOf } from './history';
import { DraftSession } from './session';
import { diagramOf, draftOf } from '../testing/records';

const diagram = (name: string, version: number) => diagramOf({ draft: draftOf({ name }), version });

const stale = () => new ApiProblem({ type: '/problems/stale', status: 409, detail: '' } as Problem);

/** A server with one diagram, that can be away or slow. */
function serverOf(d: Diagram) {
  const it = {
    now: d,
    away: false,
    wait: undefined as Promise<void> | undefined,
    saved: [] as string[],
    save: async (draft: Draft, version: number) => {
      // A request is on its way with what it held when it left.
      const wait = it.wait;
      if (wait) await wait;
      if (it.away) throw new Unreachable('away');
      if (version !== it.now.version) throw stale();
      it.saved.push(draft.name);
      it.now = { ...it.now, draft, version: version + 1, edited: true };
      return it.now;
    },
    keep: async (version: number) => {
      if (it.away) throw new Unreachable('away');
      if (version !== it.now.version) throw stale();
      it.now = { ...it.now, version: version + 1, revision: `r${version}`, edited: false };
      return it.now;
    },
    read: async () => it.now,
  };
  return it;
}

let server: ReturnType<typeof serverOf>;
let kept: { keep: ReturnType<typeof vi.fn<() => Promise<void>>> };
let stored: Diagram[];
let session: DraftSession;

beforeEach(() => {
  vi.useFakeTimers();
  server = serverOf(diagram('', 1));
  kept = { keep: vi.fn(async () => {}) };
  stored = [];
  session = new DraftSession(server.now, undefined, server, kept, (d) => stored.push(d));
});
afterEach(() => void vi.useRealTimers());

const type = (text: string) => session.set((d) => ({ ...d, name: text }), 'name');

test('a draft is saved once the typing rests', async () => {
  for (const text of ['L', 'La', 'Lan']) {
    type(text);
    await vi.advanceTimersByTimeAsync(400);
  }
  expect(server.saved).toEqual([]);
  expect(session.snapshot().state).toBe('unsaved');
  await vi.advanceTimersByTimeAsync(500);
  expect(server.saved).toEqual(['Lan']);
  expect(session.snapshot().state).toBe('saved');
  expect(stored.map((d) => d.version)).toEqual([2]);
  expect(kept.keep).toHaveBeenCalledTimes(3);
});

test('what is typed while a save is on its way is saved after it', async () => {
  let arrive = () => {};
  server.wait = new Promise((done) => (arrive = done));
  type('La');
  await vi.advanceTimersByTimeAsync(500);
  expect(session.snapshot().state).toBe('saving');
  type('Lantern');
  await vi.advanceTimersByTimeAsync(2000);
  server.wait = undefined;
  arrive();
  await vi.advanceTimersByTimeAsync(600);
  expect(server.saved).toEqual(['La', 'Lantern']);
});

test('a save that failed says so and is tried again', async () => {
  server.away = true;
  type('Lantern');
  await vi.advanceTimersByTimeAsync(600);
  expect(session.snapshot().error).toBeInstanceOf(Unreachable);
  server.away = false;
  await vi.advanceTimersByTimeAsync(4000);
  expect(server.saved).toEqual(['Lantern']);
  expect(session.snapshot().error).toBeNull();
});

test('nothing is saved over what was changed elsewhere until one of the two is chosen', async () => {
  server.now = diagram('theirs', 7);
  type('mine');
  await vi.advanceTimersByTimeAsync(600);
  expect(session.snapshot().theirs?.draft.name).toBe('theirs');
  type('mine, more');
  await vi.advanceTimersByTimeAsync(10_000);
  expect(server.saved).toEqual([]);
  session.keepMine();
  await vi.advanceTimersByTimeAsync(0);
  expect(server.saved).toEqual(['mine, more']);
  expect(session.snapshot().theirs).toBeNull();
});

test('what was saved elsewhere can be taken, and that can be undone', async () => {
  server.now = diagram('theirs', 7);
  type('mine');
  await vi.advanceTimersByTimeAsync(600);
  session.takeTheirs();
  expect(session.snapshot().draft.name).toBe('theirs');
  expect(session.snapshot().state).toBe('saved');
  session.undo();
  expect(session.snapshot().draft.name).toBe('mine');
  await vi.advanceTimersByTimeAsync(500);
  expect(server.saved).toEqual(['mine']);
});

test('keeping saves first, and tells whether it went through', async () => {
  type('Lantern');
  const done = session.keep();
  expect(session.snapshot().keeping).toBe(true);
  expect(await done).toBe(true);
  expect(server.now).toMatchObject({ revision: 'r2', edited: false });
  expect(session.snapshot()).toMatchObject({ state: 'saved', keeping: false });
  server.now = diagram('theirs', 9);
  expect(await session.keep()).toBe(false);
  expect(session.snapshot().theirs?.version).toBe(9);
});

test('leaving the editor saves at once, after what is on its way', async () => {
  let arrive = () => {};
  server.wait = new Promise((done) => (arrive = done));
  type('La');
  await vi.advanceTimersByTimeAsync(500);
  type('Lantern');
  session.leave(false);
  server.wait = undefined;
  arrive();
  await vi.advanceTimersByTimeAsync(0);
  expect(server.saved).toEqual(['La', 'Lantern']);
});

test('closing the page sends over the version that the save on its way will make', async () => {
  let arrive = () => {};
  server.wait = new Promise((done) => (arrive = done));
  type('La');
  await vi.advanceTimersByTimeAsync(500);
  type('Lantern');
  const sent = vi.spyOn(server, 'save');
  session.leave(true);
  expect(sent).toHaveBeenCalledWith(expect.objectContaining({ name: 'Lantern' }), 2, true);
  arrive();
  await vi.advanceTimersByTimeAsync(0);
  // The page was not closed after all: it goes on from the newer version.
  expect(session.snapshot().saved.version).toBe(3);
  type('Lanterns');
  await vi.advanceTimersByTimeAsync(500);
  expect(server.saved).toEqual(['La', 'Lantern', 'Lanterns']);
});

test('what this browser has kept beyond the server is saved when the editor opens', async () => {
  const ahead = change(historyOf(draftOf()), draftOf({ name: 'Lantern' }), '', 0);
  session = new DraftSession(server.now, ahead, server, kept, () => {});
  expect(session.snapshot()).toMatchObject({ state: 'unsaved', canUndo: true });
  await vi.advanceTimersByTimeAsync(500);
  expect(server.saved).toEqual(['Lantern']);
});
