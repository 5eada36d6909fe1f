import type { LogState } from './fold';
import { addedTo, folded, nothing, renewedIn, type Folded } from './folded';
import { randomID } from '../api/making';
import { formOf, type Happening, type LogEvent } from './events';
import type { Kept, RefusedEvent } from './kept';

/** A stone's log as this browser has it. */
export interface Snapshot {
  /** The log was fetched as a whole once, and what is kept of it was read. */
  known: boolean;
  events: readonly LogEvent[];
  state: LogState;
}

const unknown: Snapshot = { known: false, events: [], state: nothing.state };

/** How the logs of this browser stand as a whole. */
export interface Standing {
  /** How many entries only this browser has. */
  waiting: number;
  /** How many of them only this page has: the browser does not keep them, or not yet. */
  fleeting: number;
  /** The browser keeps what it is given. */
  keeps: boolean;
  refused: readonly RefusedEvent[];
  /** The server could not be reached, or took nothing, at the last try. */
  away: boolean;
  /** Why it took nothing, in its own words; '' where it did not answer. */
  why: string;
}

/** What tabs tell each other: that a log changed, or how sending stands. */
type Message = { changed: string[] } | { away: boolean; why: string };

/**
 * The logs of all stones that this browser works on. An entry counts from the moment it is added;
 * it is held until the server has it on disk, and is kept by the browser meanwhile. Where the
 * browser keeps nothing, the page does, and tries again.
 */
export class Log {
  private readonly streams = new Map<string, Snapshot>();
  /** What each of them was folded into. */
  private readonly folds = new Map<string, Folded>();
  /** Entries that are on their way into the browser's database, or that it refused to keep. */
  private unkept: LogEvent[] = [];
  /** The name and number of entries that no database numbers. */
  private readonly pageDevice = randomID();
  private counted = 0;
  private standing: Standing = {
    waiting: 0,
    fleeting: 0,
    keeps: true,
    refused: [],
    away: false,
    why: '',
  };
  private readonly listeners = new Set<() => void>();
  /** A log changed since the listeners were told. */
  private stale = false;
  private count = 0;
  private readonly channel: BroadcastChannel | undefined;
  /** The end of what was asked of the database so far. */
  private acting: Promise<unknown> = Promise.resolve();

  constructor(private readonly kept: Kept) {
    this.channel =
      typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel(kept.name);
    this.channel?.addEventListener('message', (e: MessageEvent<Message>) => {
      if ('away' in e.data) this.update(e.data);
      else this.readInTurn(e.data.changed);
    });
    this.readInTurn([]);
  }

  close(): void {
    this.channel?.close();
    this.listeners.clear();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  status = (): Standing => this.standing;

  /** A number that rises with every change, for those who look at several logs at once. */
  changes = (): number => this.count;

  /** The log of a stream. The first call begins to read it. */
  snapshot = (stream: string): Snapshot => {
    const have = this.streams.get(stream);
    if (have) return have;
    this.streams.set(stream, unknown);
    this.readInTurn([stream]);
    return unknown;
  };

  /** Adds what happened and returns the entries that it became. They count at once. */
  add(stream: string, happenings: readonly Happening[]): LogEvent[] {
    const now = new Date().toISOString();
    const made = happenings.map((h): LogEvent => ({
      ...h,
      id: randomID(),
      stream,
      device: this.pageDevice,
      deviceSeq: ++this.counted,
      deviceTime: now,
      version: formOf(h),
      by: '',
      seq: 0,
      serverTime: now,
      held: 1,
    }));
    this.unkept.push(...made);
    const before = this.snapshot(stream);
    this.place(
      stream,
      before.known,
      [...before.events, ...made],
      addedTo(this.foldOf(stream), made),
    );
    this.update({ waiting: this.standing.waiting + made.length });
    void this.keep();
    return made;
  }

  /** Puts what is not kept yet into the browser's database. */
  keep(): Promise<void> {
    return this.inTurn(async () => {
      // What is added while these are written is not among them.
      const batch = [...this.unkept];
      if (batch.length === 0) return;
      try {
        const numbered = new Map((await this.kept.add(batch)).map((e) => [e.id, e]));
        this.renew(new Set(batch.map((e) => e.stream)), (e) => numbered.get(e.id) ?? e);
        const ids = new Set(batch.map((e) => e.id));
        this.unkept = this.unkept.filter((e) => !ids.has(e.id));
        this.update({ keeps: true });
      } catch {
        // A private window, a full disk: they stay in this page and are tried again.
        this.update({ keeps: false });
      }
      await this.announce([...new Set(batch.map((e) => e.stream))]);
    });
  }

  /** Puts in what the server's log of a stream has. */
  merge(stream: string, events: readonly LogEvent[]): Promise<void> {
    return this.inTurn(async () => {
      const { known } = this.snapshot(stream);
      if (events.length === 0 && known) return;
      const there = new Set(events.map((e) => e.id));
      this.unkept = this.unkept.filter((e) => !there.has(e.id));
      const keeps = await this.kept.merge(stream, events).then(
        () => true,
        () => false,
      );
      // What this page has not read yet comes from the database, all of it.
      if (keeps && !known) return this.changed([stream]);
      const own = this.snapshot(stream).events.filter((e) => !there.has(e.id));
      this.put(stream, true, [...own, ...events]);
      await this.announce([stream]);
    });
  }

  /** Notes which records the server has, and returns whether they took the place of others. */
  async replaced(records: string): Promise<boolean> {
    let others = false;
    await this.inTurn(async () => {
      // A browser that keeps nothing has nothing of other records either, once it was reloaded.
      others = await this.kept.replaced(records).catch(() => false);
      if (others) await this.changed([...this.streams.keys()]);
    });
    return others;
  }

  /** Up to which place the server's log of a stream is here without a gap. */
  async reachOf(stream: string): Promise<number> {
    return (await this.kept.reachOf(stream).catch(() => undefined)) ?? 0;
  }

  /** The oldest entries that the server does not have yet. */
  async waiting(most: number): Promise<LogEvent[]> {
    await this.acting;
    const kept = await this.kept.held(most).catch(() => []);
    // What is on its way into the database gets its number there, and is sent next time.
    return [...kept, ...(this.standing.keeps ? [] : this.unkept)].slice(0, most);
  }

  /** Notes what the server answered. Entries that it does not name go on waiting. */
  settle(
    stored: readonly { id: string; seq: number }[],
    refused: readonly RefusedEvent[],
  ): Promise<void> {
    return this.inTurn(async () => {
      const seqs = new Map(stored.map((s) => [s.id, s.seq]));
      const parked = new Set(refused.map((r) => r.id));
      this.unkept = this.unkept.filter((e) => !seqs.has(e.id) && !parked.has(e.id));
      const streams = new Set(
        [...this.streams].flatMap(([stream, { events }]) =>
          events.some((e) => seqs.has(e.id) || parked.has(e.id)) ? [stream] : [],
        ),
      );
      this.renew(streams, (e) =>
        parked.has(e.id) ? undefined : seqs.has(e.id) ? { ...e, held: 0, seq: seqs.get(e.id)! } : e,
      );
      try {
        await this.kept.settle(stored, refused);
      } catch {
        this.update({ refused: [...this.standing.refused, ...refused] });
      }
      await this.announce([...streams]);
    });
  }

  /** Takes a refused entry off the list: somebody has read it. */
  dismiss(id: string): Promise<void> {
    return this.inTurn(async () => {
      await this.kept.refused.delete(id).catch(() => {});
      this.update({ refused: this.standing.refused.filter((r) => r.id !== id) });
      await this.changed([]);
    });
  }

  /** Tells all tabs whether the server could be reached, and why it takes nothing. */
  reached(away: boolean, why = ''): void {
    if (away === this.standing.away && why === this.standing.why) return;
    this.update({ away, why });
    this.broadcast({ away, why });
  }

  /** Runs what reads or writes the database one after the other: none sees another half done. */
  private inTurn(act: () => Promise<void>): Promise<void> {
    const done = this.acting.then(act);
    this.acting = done.catch(() => {});
    return done;
  }

  private readInTurn(streams: string[]): void {
    void this.inTurn(() => this.reread(streams));
  }

  private async changed(streams: string[]): Promise<void> {
    await this.reread(streams);
    this.broadcast({ changed: streams });
  }

  /** Tells other tabs of what was changed here and is shown here, and counts anew what waits. */
  private async announce(streams: string[]): Promise<void> {
    await this.reread([]);
    this.broadcast({ changed: streams });
  }

  /** Puts other entries in the place of those of streams: none for what is no entry any more. */
  private renew(streams: Iterable<string>, by: (e: LogEvent) => LogEvent | undefined): void {
    for (const stream of streams) {
      const { known, events } = this.snapshot(stream);
      const others = new Map<string, LogEvent>();
      const next = events.flatMap((e) => {
        const is = by(e);
        if (is && is !== e) others.set(e.id, is);
        return is ?? [];
      });
      const before = this.foldOf(stream);
      const fold = next.length === events.length ? renewedIn(before, others) : undefined;
      this.place(stream, known, next, fold ?? folded(next, before));
    }
  }

  private broadcast(message: Message): void {
    this.channel?.postMessage(message);
  }

  /** Reads streams that are shown here anew, and how many entries wait. */
  private async reread(streams: string[]): Promise<void> {
    try {
      const read = await this.kept.read(streams.filter((s) => this.streams.has(s)));
      // Nothing is waited for from here on: what was added meanwhile is among the unkept, and
      // nobody is shown a tick without its being counted.
      for (const { stream, known, events } of read.logs) {
        const ids = new Set(events.map((e) => e.id));
        const own = this.unkept.filter((e) => e.stream === stream && !ids.has(e.id));
        this.put(stream, known, [...events, ...own]);
      }
      const waiting = new Set([...read.held, ...this.unkept.map((e) => e.id)]).size;
      this.update({ waiting, refused: read.refused, fleeting: this.unkept.length });
    } catch {
      // Nothing is kept here: what this page knows is all there is.
      this.update({ waiting: this.unkept.length, fleeting: this.unkept.length, keeps: false });
    }
  }

  private foldOf(stream: string): Folded {
    return this.folds.get(stream) ?? nothing;
  }

  private put(stream: string, known: boolean, events: readonly LogEvent[]): void {
    this.place(stream, known, events, folded(events, this.foldOf(stream)));
  }

  private place(stream: string, known: boolean, events: readonly LogEvent[], fold: Folded): void {
    this.stale = true;
    this.folds.set(stream, fold);
    this.streams.set(stream, { known, events, state: fold.state });
  }

  private update(change: Partial<Standing>): void {
    const next = { ...this.standing, ...change };
    const alike =
      next.waiting === this.standing.waiting &&
      next.fleeting === this.standing.fleeting &&
      next.keeps === this.standing.keeps &&
      next.away === this.standing.away &&
      next.why === this.standing.why &&
      next.refused.length === this.standing.refused.length;
    // What nobody sees a difference of is not drawn anew.
    if (alike && !this.stale) return;
    this.stale = false;
    this.standing = next;
    this.notify();
  }

  private notify(): void {
    this.count++;
    this.listeners.forEach((f) => f());
  }
}
