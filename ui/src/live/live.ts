import type { InstrumentState, LiveReading } from '../api/client';

/** What an instrument measures, with the unit of its readings: degrees, teeth, mm, mm, carats. */
export type Quantity = LiveReading['quantity'];

/** A source of events, as a browser's EventSource is one. */
export interface Source {
  addEventListener: (name: string, hear: (e: MessageEvent<string>) => void) => void;
  close: () => void;
}

/**
 * What changes by itself: how instruments stand, what they read, which logs got something. Readings come up to twenty times a
 * second; whoever shows them subscribes to them alone.
 */
export class Live {
  private source: Source | undefined;
  private states: readonly InstrumentState[] = [];
  private latest: ReadonlyMap<Quantity, LiveReading> = new Map();
  private open = false;
  private clock = 0;
  private readonly hearers = {
    states: new Set<() => void>(),
    readings: new Set<() => void>(),
    logs: new Set<(streams: ReadonlySet<string> | undefined) => void>(),
  };

  /** Listens from now on to what a source tells. */
  listen(source: Source): void {
    this.close();
    this.source = source;
    const on = <T>(name: string, hear: (told: T) => void) =>
      source.addEventListener(name, (e) => {
        if (this.source === source) hear(JSON.parse(e.data) as T);
      });
    source.addEventListener('open', () => {
      if (this.source !== source) return;
      this.open = true;
      // Whatever the logs got meanwhile was told to nobody here.
      this.hearers.logs.forEach((f) => f(undefined));
    });
    source.addEventListener('error', () => {
      if (this.source === source) this.away();
    });
    on<{ now: string }>('beat', ({ now }) => {
      this.clock = Date.now() - Date.parse(now);
      this.hearers.states.forEach((f) => f());
    });
    on<{ instruments: InstrumentState[] }>('instruments', ({ instruments }) =>
      this.stand(instruments),
    );
    on<{ readings: LiveReading[] }>('readings', ({ readings }) => this.read(readings));
    on<{ streams: string[] }>('logs', ({ streams }) => {
      const changed = new Set(streams);
      this.hearers.logs.forEach((f) => f(changed));
    });
  }

  /** Ends listening: nothing is known any more. */
  close(): void {
    this.source?.close();
    this.source = undefined;
    this.away();
  }

  /** Whether changes of logs are told: else they have to be asked for. */
  tells = (): boolean => this.open;

  /** By how many ms the clock of this device is ahead of the server's, as far as that was told. */
  clockAhead = (): number => this.clock;

  instruments = (): readonly InstrumentState[] => this.states;

  /** The reading of each quantity: of two instruments, that of the one which moved last. */
  readings = (): ReadonlyMap<Quantity, LiveReading> => this.latest;

  onInstruments = (f: () => void): (() => void) => subscribe(this.hearers.states, f);

  onReadings = (f: () => void): (() => void) => subscribe(this.hearers.readings, f);

  /** Calls f with the streams that got something; with none where it may be any. */
  onLogs = (f: (streams: ReadonlySet<string> | undefined) => void): (() => void) =>
    subscribe(this.hearers.logs, f);

  private away(): void {
    this.open = false;
    if (this.states.length > 0 || this.latest.size > 0) this.stand([]);
  }

  private stand(instruments: readonly InstrumentState[]): void {
    this.states = instruments;
    this.show(instruments.flatMap((i) => (i.here ? i.now : [])));
    this.hearers.states.forEach((f) => f());
  }

  private read(readings: readonly LiveReading[]): void {
    this.show([...this.latest.values(), ...readings]);
  }

  /** Shows the last of these for each quantity. Of two instruments the one that moved counts. */
  private show(readings: readonly LiveReading[]): void {
    const next = new Map<Quantity, LiveReading>();
    for (const r of readings) {
      const before = next.get(r.quantity);
      const moved = !before || before.instrument === r.instrument || !r.held;
      if (moved) next.set(r.quantity, r);
    }
    this.latest = next;
    this.hearers.readings.forEach((f) => f());
  }
}

function subscribe<F>(to: Set<F>, f: F): () => void {
  to.add(f);
  return () => void to.delete(f);
}
