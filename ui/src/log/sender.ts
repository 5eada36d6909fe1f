import { answer, ApiProblem, client, Unreachable } from '../api/client';
import { fromServer, type LogEvent } from './events';
import type { Log } from './log';
import type { RefusedEvent } from './kept';

/** How many entries are sent at once. */
const batch = 400;

/** How soon the server is tried again while it is away, and how long one answer may take, in ms. */
const retryAfter = 2000;
const patience = 8000;

/** Runs f in one tab of the browser at a time. */
export type Alone = (f: () => Promise<void>) => Promise<void>;

/** How the server is asked. */
export interface Server {
  send: (events: readonly LogEvent[]) => Promise<Answer[]>;
  /** The entries of a stream after a place, whether there are more, and which records they are of. */
  after: (
    workId: string,
    seq: number,
  ) => Promise<{ records: string; events: LogEvent[]; more: boolean }>;
}

export interface Answer {
  id: string;
  outcome: 'stored' | 'known' | 'refused';
  seq: number;
  reason: string;
  message: string;
}

/** The server behind the typed client. A hung network is as good as none. */
export const realServer: Server = {
  async send(events) {
    const sent = events.map(
      ({ id, stream, device, deviceSeq, deviceTime, kind, version, payload }) => ({
        id,
        stream,
        device,
        deviceSeq,
        deviceTime,
        kind,
        version,
        payload: payload as unknown as Record<string, unknown>,
      }),
    );
    const signal = AbortSignal.timeout(patience);
    return (await answer(client.POST('/api/events', { body: { events: sent }, signal }))).answers;
  },
  async after(workId, seq) {
    const got = await answer(
      client.GET('/api/works/{id}/events', {
        params: { path: { id: workId }, query: { after: seq } },
        signal: AbortSignal.timeout(patience),
      }),
    );
    return { records: got.records, events: got.events.map(fromServer), more: got.more };
  },
};

/**
 * Sends what waits, of all stones, from one tab at a time. An entry leaves the queue only when the
 * answer names it. One that is refused goes into the list of the refused and holds nothing up.
 */
export class Sender {
  private busy = false;
  private again = false;
  private stopped = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly log: Log,
    private readonly server: Server,
    private readonly alone: Alone,
    /** Called with the streams that got something on disk. */
    private readonly arrived: (streams: ReadonlySet<string>) => void = () => {},
  ) {}

  /** Sends until nothing waits, or the server is away: then it is tried again by itself. */
  async send(): Promise<void> {
    if (this.busy) {
      this.again = true;
      return;
    }
    this.busy = true;
    clearTimeout(this.timer);
    try {
      do {
        this.again = false;
        await this.log.keep();
        await this.alone(() => this.sendAll());
      } while (this.again);
      this.log.reached(false);
    } catch (e) {
      // Whatever it was, what waits is kept and tried again.
      this.log.reached(true, whyOf(e));
      if (!isAway(e)) console.warn('sending failed', e);
      if (!this.stopped) this.timer = setTimeout(() => void this.send(), retryAfter);
    } finally {
      this.busy = false;
    }
  }

  private async sendAll(): Promise<void> {
    for (;;) {
      const waiting = await this.log.waiting(batch);
      if (waiting.length === 0) return;
      const byId = new Map(waiting.map((e) => [e.id, e]));
      const answers = (await this.server.send(waiting)).filter((a) => byId.has(a.id));
      const at = new Date().toISOString();
      const refused = answers
        .filter((a) => a.outcome === 'refused')
        .map((a): RefusedEvent => ({ ...a, event: byId.get(a.id)!, at }));
      await this.log.settle(
        answers.filter((a) => a.outcome !== 'refused'),
        refused,
      );
      this.arrived(new Set(answers.map((a) => byId.get(a.id)!.stream)));
      if (answers.length === 0) throw new Error('the answer names nothing that was sent');
      this.log.reached(false);
    }
  }

  /** Ends trying again. */
  stop(): void {
    clearTimeout(this.timer);
    this.stopped = true;
  }

  /**
   * Fetches what a work's log got elsewhere. A long one comes in pieces, and counts once all of it is here: in the middle of
   * it something may be cut that was taken back after that.
   */
  async catchUp(workId: string, stream: string): Promise<void> {
    let events: LogEvent[] = [];
    for (let more = true; more;) {
      const got = await this.server.after(
        workId,
        events.at(-1)?.seq ?? (await this.log.reachOf(stream)),
      );
      // Where a copy was brought back, nothing is after a place in the log that was there before.
      if (await this.log.replaced(got.records)) {
        events = [];
        continue;
      }
      events = [...events, ...got.events];
      more = got.more;
    }
    await this.log.merge(stream, events);
    this.log.reached(false);
  }
}

/** What the server says of why it takes nothing now, '' where it did not answer: its disk is full, say. */
export const whyOf = (e: unknown): string => (e instanceof ApiProblem ? e.problem.detail : '');

/** Whether an error says that the server cannot be reached now, and nothing worse. */
export const isAway = (e: unknown): boolean =>
  e instanceof Unreachable || (e instanceof ApiProblem && e.problem.status >= 500);
