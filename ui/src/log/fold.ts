import {
  newestOf,
  type Dopping,
  type Happened,
  type LogEvent,
  type Measured,
  type Reading,
  type Reopening,
  type Visit,
} from './events';

/**
 * Where the work on a stone stands, folded from its log. The server folds the same log by the same
 * rules (workshop/journal); fold.fixtures.json holds the two to each other.
 */
export interface LogState {
  /** The visits that are done or left out, by visitKey. */
  marks: ReadonlyMap<string, Mark>;
  /** Items of transfers that are checked, by setup and item. */
  checks: ReadonlyMap<string, Act>;
  /** Setups that the stone was turned over to, in order. */
  turns: readonly Turned[];
  /** How the stone was glued, in order: where a setup has several, the last one counts. */
  dops: readonly Glued[];
  /** The plans that were gone through before the stone was glued, by number. */
  vets: ReadonlyMap<number, Act>;
  notes: readonly Note[];
  stretches: readonly Stretch[];
  /** Where the work went on out of turn, in order: it goes on with the last one. */
  moves: readonly Moved[];
  /** What happened at the wheel, what the height dial read and what was measured, in order. */
  happenings: readonly Incident[];
  readings: readonly (Act & Reading)[];
  measures: readonly (Act & Measured)[];
  /** The stones that machines told. */
  surveys: readonly Act[];
  pauses: readonly Pause[];
  /** The number of the present plan, 0 for none. */
  plan: number;
  finished: boolean;
  /** How much came in after the logbook card was written. */
  late: number;
}

/** An event that stands. Events lists all that say the same, the last one last. */
export interface Act {
  /** Its place among all events of the work. */
  n: number;
  events: readonly LogEvent[];
}

export interface Mark extends Act {
  kind: 'done' | 'skip';
  /**
   * Ticks that say otherwise: a facet that one screen says was cut is cut, whatever another says that did not know of it. Both
   * stay.
   */
  against: readonly LogEvent[];
}

interface Turned extends Act {
  setup: string;
}

export interface Glued extends Act, Dopping {
  /** When the bond can be cut on, in ms. */
  cured: number;
}

interface Note extends Act {
  text: string;
}

interface Stretch extends Act {
  kind: 'begin' | 'end';
}

export interface Moved extends Act, Reopening {
  /** The marks that were there, by visitKey. */
  opened: ReadonlyMap<string, Mark>;
}

export interface Incident extends Act, Happened {}

interface Pause extends Act {
  kind: 'pause' | 'resume';
}

export const visitKey = (v: Visit): string => `${v.setup}/${v.pass}/${v.facet}`;

/**
 * Events in the order in which they count: each device's events take the places in which events of
 * that device arrived, in the order of the device itself. What only this browser has comes last, in
 * the order in which it stands in the list: what is not in its database yet has no number there.
 */
export function ordered(events: readonly LogEvent[]): LogEvent[] {
  const arrived = [...events].sort((a, b) => a.held - b.held || (a.held ? 0 : a.seq - b.seq));
  const own = new Map<string, { list: LogEvent[]; next: number }>();
  for (const e of arrived) {
    const its = own.get(e.device);
    if (its) its.list.push(e);
    else own.set(e.device, { list: [e], next: 0 });
  }
  for (const { list } of own.values()) list.sort((a, b) => a.deviceSeq - b.deviceSeq);
  return arrived.map((e) => {
    const its = own.get(e.device)!;
    return its.list[its.next++]!;
  });
}

interface Folding extends LogState {
  marks: Map<string, Mark>;
  checks: Map<string, Act>;
  turns: Turned[];
  dops: Glued[];
  vets: Map<number, Act>;
  notes: Note[];
  stretches: Stretch[];
  moves: (Moved & { opened: Map<string, Mark> })[];
  happenings: Incident[];
  readings: (Act & Reading)[];
  measures: (Act & Measured)[];
  surveys: Act[];
  pauses: Pause[];
}

/** What follows from each kind of event. One that is not here counts for nothing. */
const apply: { [K in LogEvent['kind']]: (s: Folding, n: number, e: Of<K>) => void } = {
  done: (s, n, e) => {
    tick(s, n, e);
    const { setup, pass, facet, dials } = e.payload;
    if (dials?.height !== undefined)
      s.readings.push({ at: { setup, pass, facet }, mm: dials.height, n, events: [e] });
  },
  skip: tick,
  check: (s, n, e) => record(s.checks, `${e.payload.setup}/${e.payload.item}`, n, e),
  transfer: (s, n, e) => {
    const { setup } = e.payload;
    const had = s.turns.at(-1);
    // Where the stone sits in it already another screen says the same.
    if (had?.setup === setup)
      s.turns[s.turns.length - 1] = { setup, n, events: [...had.events, e] };
    else s.turns.push({ setup, n, events: [e] });
  },
  dopped: (s, n, e) => {
    const cured = Date.parse(e.deviceTime) + e.payload.minutes * 60_000;
    s.dops.push({ ...e.payload, cured, n, events: [e] });
  },
  vetted: (s, n, e) => record(s.vets, e.payload.plan, n, e),
  note: (s, n, e) => void s.notes.push({ n, events: [e], text: e.payload.text }),
  jump: (s, n, e) => {
    const { setup, pass, facet } = e.payload;
    const to = { setup, passes: [pass], facets: [facet] };
    s.moves.push({ ...to, n, events: [e], opened: new Map() });
  },
  again: reopen,
  happened: (s, n, e) => void s.happenings.push({ ...e.payload, n, events: [e] }),
  reading: (s, n, e) => void s.readings.push({ ...e.payload, n, events: [e] }),
  measured: (s, n, e) => void s.measures.push({ ...e.payload, n, events: [e] }),
  surveyed: (s, n, e) => void s.surveys.push({ n, events: [e] }),
  pause: (s, n, e) => void s.pauses.push({ kind: e.kind, n, events: [e] }),
  resume: (s, n, e) => void s.pauses.push({ kind: e.kind, n, events: [e] }),
  begin: stretch,
  end: stretch,
  undo: (s, _, e) => takeBack(s, e.payload.undoes),
  plan: (s, _, e) => void (s.plan = Math.max(s.plan, e.payload.no)),
  // What was agreed anew is only told.
  agree: () => {},
  finish: (s) => void (s.finished = true),
};

type Of<K> = LogEvent & { kind: K };

/** Kinds that only the server writes: they are never late. */
const byServer: ReadonlySet<string> = new Set<LogEvent['kind']>([
  'plan',
  'agree',
  'surveyed',
  'finish',
]);

/** The state before anything has happened. */
export const emptyState = (): LogState => folding();

function folding(): Folding {
  return {
    marks: new Map(),
    checks: new Map(),
    turns: [],
    dops: [],
    vets: new Map(),
    notes: [],
    stretches: [],
    moves: [],
    happenings: [],
    readings: [],
    measures: [],
    surveys: [],
    pauses: [],
    plan: 0,
    finished: false,
    late: 0,
  };
}

/** Folds a log into the state that it leads to. */
export const fold = (events: readonly LogEvent[]): LogState =>
  advance(emptyState(), 0, ordered(events));

/** The state after further events, which come in their order after so many others. The state before stays as it is. */
export function advance(before: LogState, count: number, events: readonly LogEvent[]): LogState {
  const s = copyOf(before);
  events.forEach((e, i) => {
    if (s.finished && !byServer.has(e.kind)) s.late++;
    const follow = apply[e.kind] as ((s: Folding, n: number, e: LogEvent) => void) | undefined;
    if (e.version <= newestOf(e.kind)) follow?.(s, count + i + 1, e);
  });
  return s;
}

/** The same state, with entries that became others: the server stored them meanwhile. */
export function renewed(before: LogState, by: ReadonlyMap<string, LogEvent>): LogState {
  const act = <A extends Act>(a: A): A =>
    a.events.some((e) => by.has(e.id))
      ? { ...a, events: a.events.map((e) => by.get(e.id) ?? e) }
      : a;
  const acts = <K, A extends Act>(all: ReadonlyMap<K, A>) =>
    new Map([...all].map(([key, a]) => [key, act(a)]));
  const marks = (all: ReadonlyMap<string, Mark>) =>
    new Map(
      [...all].map(([key, m]) => {
        const is = act(m);
        return m.against.some((e) => by.has(e.id))
          ? [key, { ...is, against: m.against.map((e) => by.get(e.id) ?? e) }]
          : [key, is];
      }),
    );
  return {
    ...before,
    marks: marks(before.marks),
    checks: acts(before.checks),
    turns: before.turns.map(act),
    vets: acts(before.vets),
    dops: before.dops.map(act),
    notes: before.notes.map(act),
    stretches: before.stretches.map(act),
    moves: before.moves.map((m) => ({ ...act(m), opened: marks(m.opened) })),
    happenings: before.happenings.map(act),
    readings: before.readings.map(act),
    measures: before.measures.map(act),
    surveys: before.surveys.map(act),
    pauses: before.pauses.map(act),
  };
}

/** A copy that can be folded on, while the state before is still shown. */
const copyOf = (s: LogState): Folding => ({
  ...s,
  marks: new Map(s.marks),
  checks: new Map(s.checks),
  turns: [...s.turns],
  vets: new Map(s.vets),
  dops: [...s.dops],
  notes: [...s.notes],
  stretches: [...s.stretches],
  moves: s.moves.map((m) => ({ ...m, opened: new Map(m.opened) })),
  happenings: [...s.happenings],
  readings: [...s.readings],
  measures: [...s.measures],
  surveys: [...s.surveys],
  pauses: [...s.pauses],
});

function record<K>(acts: Map<K, Act>, key: K, n: number, e: LogEvent) {
  acts.set(key, { n, events: [...(acts.get(key)?.events ?? []), e] });
}

function tick(s: Folding, n: number, e: Of<'done' | 'skip'>) {
  const key = visitKey(e.payload);
  const had = s.marks.get(key);
  const against = had?.against ?? [];
  if (had?.kind === 'done' && e.kind === 'skip')
    s.marks.set(key, { ...had, against: [...against, e] });
  else if (had?.kind === 'skip' && e.kind === 'done')
    s.marks.set(key, { n, kind: 'done', events: [e], against: [...against, ...had.events] });
  else s.marks.set(key, { n, kind: e.kind, events: [...(had?.events ?? []), e], against });
}

/** A mark without what the device of an event has said of it; what others said stands. Undefined where nothing is left. */
function without(mark: Mark, id: string): Mark | undefined {
  const other = mark.against.find((e) => e.id === id);
  if (other) return { ...mark, against: mark.against.filter((e) => e.device !== other.device) };
  const own = mark.events.find((e) => e.id === id);
  if (!own) return mark;
  const events = mark.events.filter((e) => e.device !== own.device);
  if (events.length > 0) return { ...mark, events };
  return mark.against.length > 0
    ? { ...mark, kind: 'skip', events: mark.against, against: [] }
    : undefined;
}

function stretch(s: Folding, n: number, e: Of<'begin' | 'end'>) {
  s.stretches.push({ n, events: [e], kind: e.kind });
}

/** Opens visits again that were done or left out. */
function reopen(s: Folding, n: number, e: Of<'again'>) {
  const { setup, passes, facets } = e.payload;
  const opened = new Map<string, Mark>();
  for (const pass of passes)
    for (const facet of facets) {
      const key = visitKey({ setup, pass, facet });
      const mark = s.marks.get(key);
      if (mark) opened.set(key, mark);
      s.marks.delete(key);
    }
  s.moves.push({ setup, passes, facets, n, events: [e], opened });
}

/** Takes back whatever an event says: a tick that one device made twice is taken back once for both. */
function takeBack(s: Folding, id: string) {
  const names = (a: Act) => a.events.some((e) => e.id === id);
  const lessen = (marks: Map<string, Mark>) => {
    for (const [key, mark] of marks) {
      const left = without(mark, id);
      if (!left) marks.delete(key);
      else if (left !== mark) marks.set(key, left);
    }
  };
  lessen(s.marks);
  for (const acts of [s.checks, s.vets] as Map<unknown, Act>[])
    for (const [key, a] of acts) if (names(a)) acts.delete(key);
  // What a move had opened stands again, unless it was done anew.
  for (const m of s.moves) if (names(m)) s.marks = new Map([...m.opened, ...s.marks]);
  s.turns = s.turns.filter((a) => !names(a));
  s.moves = s.moves.filter((a) => !names(a));
  for (const { opened } of s.moves) lessen(opened);
  s.happenings = s.happenings.filter((a) => !names(a));
  s.readings = s.readings.filter((a) => !names(a));
  s.measures = s.measures.filter((a) => !names(a));
  s.surveys = s.surveys.filter((a) => !names(a));
  s.pauses = s.pauses.filter((a) => !names(a));
  s.dops = s.dops.filter((a) => !names(a));
  s.notes = s.notes.filter((a) => !names(a));
  s.stretches = s.stretches.filter((a) => !names(a));
}

/** The event that Back takes back: the last one that stands at the wheel. */
export function lastAct(s: LogState): LogEvent | undefined {
  let last: Act | undefined;
  for (const acts of [
    s.marks.values(),
    s.checks.values(),
    s.turns,
    s.stretches,
    s.moves,
    s.happenings.filter((h) => h.what === 'bond-failed'),
  ])
    for (const a of acts) if (!last || a.n > last.n) last = a;
  return last?.events.at(-1);
}

/** Whether the work is paused. */
export const isPaused = (s: LogState): boolean => s.pauses.at(-1)?.kind === 'pause';

/** The time of the stretches that have ended, in ms, and since when the present one runs. */
export function spentOf(s: LogState): { spent: number; since: number | undefined } {
  let spent = 0;
  let from: LogEvent | undefined;
  for (const { kind, events } of s.stretches) {
    const e = events[0]!;
    if (kind === 'begin') from ??= e;
    else if (from) {
      // Where begin and end come from two devices, their clocks say nothing of each other.
      const by = e.device === from.device ? 'deviceTime' : 'serverTime';
      spent += Math.max(0, Date.parse(e[by]) - Date.parse(from[by]));
      from = undefined;
    }
  }
  return { spent, since: from && Date.parse(from.deviceTime) };
}
