import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { ApiProblem, Unreachable } from '../api/client';
import { randomID } from '../api/making';
import { fromServer, streamOf, type Happening, type LogEvent } from './events';
import { visitKey } from './fold';
import { Kept } from './kept';
import { Log } from './log';
import { Sender, type Answer, type Server } from './sender';

const work = 'w1';
const stream = streamOf(work);
const tick = (facet: string): Happening => ({
  kind: 'done',
  payload: { setup: 's', pass: 'cut', facet },
});

/** A server that keeps what it is sent, unless it is told to fail. */
class FakeServer implements Server {
  readonly stored: LogEvent[] = [];
  readonly posts: string[][] = [];
  down: false | 'away' | 'hung' | 'full' = false;
  refuses = new Set<string>();
  /** Answers only about so many of what it is sent. */
  names = Infinity;
  records = 'first';
  /** How many events of a log it sends at once. */
  most = Infinity;

  async send(events: readonly LogEvent[]): Promise<Answer[]> {
    this.posts.push(events.map((e) => e.id));
    this.fail();
    return events.slice(0, this.names).map((e): Answer => {
      if (this.refuses.has(e.id))
        return {
          id: e.id,
          outcome: 'refused',
          seq: 0,
          reason: 'not-asked',
          message: 'Tick it anew.',
        };
      const at = this.stored.findIndex((s) => s.id === e.id);
      if (at >= 0) return answerOf(e.id, 'known', at + 1);
      this.stored.push({ ...e, held: 0, seq: this.stored.length + 1 });
      return answerOf(e.id, 'stored', this.stored.length);
    });
  }

  async after(_: string, seq: number) {
    this.fail();
    const events = this.stored.filter((e) => e.seq > seq).map((e) => fromServer(e as never));
    return {
      records: this.records,
      events: events.slice(0, this.most),
      more: events.length > this.most,
    };
  }

  private fail() {
    if (this.down === 'away' || this.down === 'hung') throw new Unreachable('unreachable');
    if (this.down === 'full')
      throw new ApiProblem({
        type: '/problems/busy',
        title: '',
        status: 503,
        detail: '',
        places: [],
      });
  }
}

const answerOf = (id: string, outcome: 'stored' | 'known', seq: number): Answer => ({
  id,
  outcome,
  seq,
  reason: '',
  message: '',
});

/** A tab of a browser: its own page over a database and locks that all tabs share. */
class Tab {
  readonly kept: Kept;
  readonly log: Log;
  readonly sender: Sender;

  constructor(name: string, server: Server, alone = (f: () => Promise<void>) => inTurn(name, f)) {
    this.kept = new Kept(name);
    this.log = new Log(this.kept);
    this.sender = new Sender(this.log, server, alone);
    tabs.push(this);
  }

  /** The facets that count as cut. */
  cut(): string[] {
    return [...this.log.snapshot(stream).state.marks.keys()].map((k) => k.split('/')[2]!).sort();
  }

  async settled(facets: string[]): Promise<void> {
    await vi.waitFor(() => expect(this.cut()).toEqual(facets));
  }

  close() {
    this.sender.stop();
    this.log.close();
    this.kept.close();
  }
}

const tabs: Tab[] = [];
const turns = new Map<string, Promise<unknown>>();

/** What the browser's locks do: one after the other. */
function inTurn(name: string, f: () => Promise<void>): Promise<void> {
  const done = (turns.get(name) ?? Promise.resolve()).then(f);
  turns.set(
    name,
    done.catch(() => {}),
  );
  return done;
}

let name = '';
let server: FakeServer;
beforeEach(() => {
  name = randomID();
  server = new FakeServer();
  vi.spyOn(console, 'warn').mockImplementation(() => {});
});
afterEach(() => {
  tabs.splice(0).forEach((t) => t.close());
});

describe('a bench never forgets', () => {
  test('what was acknowledged is there after a reload without network', async () => {
    const first = new Tab(name, server);
    // Before the log was fetched nobody knows what is cut.
    expect(first.log.snapshot(stream).known).toBe(false);
    await first.sender.catchUp(work, stream);
    await vi.waitFor(() => expect(first.log.snapshot(stream).known).toBe(true));
    first.log.add(stream, [tick('f1'), tick('f2')]);
    await first.sender.send();
    first.log.add(stream, [tick('f3')]);
    await first.log.keep();
    first.close();
    server.down = 'away';
    const again = new Tab(name, server);
    await again.settled(['f1', 'f2', 'f3']);
    expect(again.log.snapshot(stream).known).toBe(true);
    expect(again.log.snapshot(stream).events.filter((e) => e.held).length).toBe(1);
    await vi.waitFor(() => expect(again.log.status().waiting).toBe(1));
  });

  test('what is added while something is being written is not lost', async () => {
    const tab = new Tab(name, server);
    const write = tab.kept.add.bind(tab.kept);
    vi.spyOn(tab.kept, 'add').mockImplementationOnce(async (events) => {
      const written = await write(events);
      tab.log.add(stream, [tick('f2')]);
      return written;
    });
    tab.log.add(stream, [tick('f1')]);
    await tab.sender.send();
    await vi.waitFor(() => expect(server.stored.map(facetOf)).toEqual(['f1', 'f2']));
    await tab.settled(['f1', 'f2']);
  });

  test('what was once shown as cut is never shown as open in between', async () => {
    const tab = new Tab(name, server);
    await tab.sender.catchUp(work, stream);
    tab.log.snapshot(stream);
    // Ticks fall into every gap of the reading and writing that goes on.
    let n = 0;
    for (const gap of ['read', 'add', 'held', 'settle'] as const) {
      const real = tab.kept[gap].bind(tab.kept) as (...of: unknown[]) => Promise<unknown>;
      vi.spyOn(tab.kept, gap as 'held').mockImplementation((async (...of: unknown[]) => {
        if (n < 40) tab.log.add(stream, [tick(`f${++n}`)]);
        const got = await real(...of);
        if (n < 40) tab.log.add(stream, [tick(`f${++n}`)]);
        return got;
      }) as never);
    }
    const shown: number[] = [];
    const uncounted = new Set<number>();
    tab.log.subscribe(() => {
      shown.push(tab.cut().length);
      const held = tab.log.snapshot(stream).events.filter((e) => e.held).length;
      uncounted.add(held - tab.log.status().waiting);
    });
    tab.log.add(stream, [tick('f0')]);
    await tab.sender.send();
    await vi.waitFor(() => expect(server.stored.length).toBe(41));
    await vi.waitFor(() => expect(tab.log.status().waiting).toBe(0));
    expect(shown).toEqual([...shown].sort((a, b) => a - b));
    expect([...uncounted], 'a tick is never said to be on disk before it is').toEqual([0]);
  });

  test('what other screens did is fetched after the place that is here', async () => {
    server.stored.push({ ...elsewhere('f9'), seq: 1 });
    const tab = new Tab(name, server);
    const after = vi.spyOn(server, 'after');
    await tab.sender.catchUp(work, stream);
    await tab.settled(['f9']);
    server.stored.push({ ...elsewhere('f8'), seq: 2 });
    await tab.sender.catchUp(work, stream);
    await tab.settled(['f8', 'f9']);
    expect(after.mock.calls.map(([, seq]) => seq)).toEqual([0, 1]);
  });

  test('a long log counts once all its pieces are here', async () => {
    const cut = { ...elsewhere('f9'), seq: 1 };
    const back = { kind: 'undo' as const, payload: { undoes: cut.id } };
    server.stored.push(cut, { ...elsewhere('f9'), ...back, seq: 2 } as LogEvent, {
      ...elsewhere('f8'),
      seq: 3,
    });
    server.most = 1;
    const tab = new Tab(name, server);
    const shown = new Set<string>();
    tab.log.subscribe(() => shown.add(tab.log.snapshot(stream).known ? tab.cut().join() : 'open'));
    // The network goes in the middle of it.
    const real = server.after.bind(server);
    vi.spyOn(server, 'after').mockImplementationOnce(async (...of) => {
      const got = await real(...of);
      server.down = 'away';
      return got;
    });
    await expect(tab.sender.catchUp(work, stream)).rejects.toThrow(Unreachable);
    server.down = false;
    await tab.sender.catchUp(work, stream);
    await tab.settled(['f8']);
    expect([...shown].filter((s) => s !== 'open')).toEqual(['f8']);
  });

  test('where a copy was brought back its log counts, and what only this browser has stays', async () => {
    server.stored.push({ ...elsewhere('f8'), seq: 1 }, { ...elsewhere('f9'), seq: 2 });
    const tab = new Tab(name, server);
    await tab.sender.catchUp(work, stream);
    await tab.settled(['f8', 'f9']);
    server.down = 'away';
    tab.log.add(stream, [tick('f1')]);
    await tab.settled(['f1', 'f8', 'f9']);
    server.down = false;
    server.records = 'brought back';
    server.stored.length = 0;
    server.stored.push({ ...elsewhere('f7'), seq: 1 });
    await tab.sender.catchUp(work, stream);
    await tab.settled(['f1', 'f7']);
    await tab.sender.send();
    await vi.waitFor(() => expect(server.stored.length).toBe(2));
  });

  test('a clock that is set back changes no order', async () => {
    vi.setSystemTime(new Date('2026-03-01T18:00:00Z'));
    const tab = new Tab(name, server);
    const [made] = tab.log.add(stream, [tick('f1')]);
    vi.setSystemTime(new Date('2026-03-01T12:00:00Z'));
    tab.log.add(stream, [{ kind: 'undo', payload: { undoes: made!.id } }]);
    tab.log.add(stream, [tick('f2')]);
    await tab.settled(['f2']);
    await tab.sender.send();
    await tab.settled(['f2']);
    vi.useRealTimers();
  });

  test('a visit that two tabs tick is taken back by one Back', async () => {
    const [a, b] = [new Tab(name, server), new Tab(name, server)];
    a.log.snapshot(stream);
    b.log.snapshot(stream);
    a.log.add(stream, [tick('f1')]);
    b.log.add(stream, [tick('f1')]);
    await Promise.all([a.sender.send(), b.sender.send()]);
    await a.settled(['f1']);
    const mark = a.log
      .snapshot(stream)
      .state.marks.get(visitKey({ setup: 's', pass: 'cut', facet: 'f1' }))!;
    await vi.waitFor(() => expect(a.log.snapshot(stream).events.length).toBe(2));
    a.log.add(stream, [{ kind: 'undo', payload: { undoes: mark.events.at(-1)!.id } }]);
    await a.settled([]);
    await b.settled([]);
  });
});

describe('what waits is sent', () => {
  test('by two senders on one table once, in the order of the device', async () => {
    const [a, b] = [new Tab(name, server), new Tab(name, server)];
    for (let i = 0; i < 20; i++) (i % 2 ? a : b).log.add(stream, [tick(`f${i}`)]);
    await Promise.all([a.sender.send(), b.sender.send(), a.sender.send()]);
    await Promise.all([a.sender.send(), b.sender.send()]);
    expect(server.stored.length).toBe(20);
    expect(new Set(server.stored.map((e) => e.id)).size).toBe(20);
    expect(new Set(server.stored.map((e) => e.device)).size).toBe(1);
    expect(new Set(server.stored.map((e) => e.deviceSeq)).size).toBe(20);
    for (const tab of [a, b]) await vi.waitFor(() => expect(tab.log.status().waiting).toBe(0));
  });

  test('and only what the answer names leaves the queue', async () => {
    const tab = new Tab(name, server);
    tab.log.add(stream, [tick('f1'), tick('f2'), tick('f3')]);
    server.names = 1;
    await tab.sender.send();
    expect(server.posts.map((p) => p.length)).toEqual([3, 2, 1]);
    expect(server.stored.length).toBe(3);
    expect(tab.log.status().waiting).toBe(0);
  });

  test('a refused entry is parked with what to do, and later ones pass', async () => {
    const tab = new Tab(name, server);
    const made = tab.log.add(stream, [tick('f1'), tick('f2'), tick('f3')]);
    server.refuses.add(made[1]!.id);
    await tab.sender.send();
    await tab.settled(['f1', 'f3']);
    const { refused, waiting } = tab.log.status();
    expect(waiting).toBe(0);
    expect(refused.map((r) => [r.id, r.message])).toEqual([[made[1]!.id, 'Tick it anew.']]);
    await tab.log.dismiss(made[1]!.id);
    expect(tab.log.status().refused).toEqual([]);
  });

  test.each(['away', 'hung', 'full'] as const)('a server that is %s loses nothing', async (how) => {
    const [tab, other] = [new Tab(name, server), new Tab(name, server)];
    server.down = how;
    tab.log.add(stream, [tick('f1')]);
    await tab.sender.send();
    expect(tab.log.status()).toMatchObject({ away: true, waiting: 1 });
    await vi.waitFor(() => expect(other.log.status()).toMatchObject({ away: true, waiting: 1 }));
    server.down = false;
    await tab.sender.send();
    expect(tab.log.status()).toMatchObject({ away: false, waiting: 0 });
    // The other tab says so as well, though it has sent nothing.
    await vi.waitFor(() => expect(other.log.status()).toMatchObject({ away: false, waiting: 0 }));
  });
});

describe('a browser that keeps nothing', () => {
  test('a write that failed is made good, and nothing changes its order', async () => {
    const tab = new Tab(name, server);
    await tab.settled([]);
    const add = vi
      .spyOn(tab.kept, 'add')
      .mockRejectedValue(new DOMException('', 'QuotaExceededError'));
    tab.log.add(stream, [tick('f1')]);
    await tab.log.keep();
    await vi.waitFor(() => expect(tab.log.status()).toMatchObject({ waiting: 1, fleeting: 1 }));
    await tab.settled(['f1']);
    add.mockRestore();
    tab.log.add(stream, [tick('f2')]);
    await tab.log.keep();
    await vi.waitFor(() => expect(tab.log.status()).toMatchObject({ waiting: 2, fleeting: 0 }));
    expect((await tab.kept.held(9)).map((e) => facetOf(e))).toEqual(['f1', 'f2']);
  });

  test('still sends what its page has', async () => {
    const tab = new Tab(name, server);
    vi.spyOn(tab.kept, 'add').mockRejectedValue(new Error('private'));
    vi.spyOn(tab.kept, 'held').mockRejectedValue(new Error('private'));
    vi.spyOn(tab.kept, 'read').mockRejectedValue(new Error('private'));
    vi.spyOn(tab.kept, 'settle').mockRejectedValue(new Error('private'));
    tab.log.add(stream, [tick('f1')]);
    await tab.sender.send();
    expect(server.stored.map(facetOf)).toEqual(['f1']);
    await tab.settled(['f1']);
    expect(tab.log.snapshot(stream).events[0]!.held).toBe(0);
  });
});

const facetOf = (e: LogEvent) => (e.kind === 'done' ? e.payload.facet : '');

/** A tick that another screen made. */
function elsewhere(facet: string): LogEvent {
  const now = new Date().toISOString();
  return {
    ...(tick(facet) as { kind: 'done'; payload: { setup: string; pass: string; facet: string } }),
    id: randomID(),
    stream,
    device: 'elsewhere',
    deviceSeq: 1,
    deviceTime: now,
    serverTime: now,
    version: 1,
    by: 'Tablet',
    seq: 0,
    held: 0,
  };
}
