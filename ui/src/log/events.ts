import type { components } from '../api/schema';

/** The name that the log gives to a work. */
export const streamOf = (workId: string): string => `work/${workId}`;

/** One facet in one pass of one setup: what a tick stands for. */
export interface Visit {
  setup: string;
  pass: string;
  facet: string;
}

/** What the dials of a machine showed when a facet was finished: degrees, a position on the gear, mm. */
export interface Dials {
  angle?: number;
  index?: number;
  height?: number;
}

/** What a plan asks for at the wheel. */
export interface Asked {
  no: number;
  runs: { setup: string; pass: string; facets: string[] }[];
}

/** How a stone was glued for a setup, and how many minutes the bond cures from then on. */
export interface Dopping {
  setup: string;
  dop: string;
  adhesive: string;
  axis?: string;
  minutes: number;
}

/** Visits of a setup: these facets in these passes. */
export interface Reopening {
  setup: string;
  passes: string[];
  facets: string[];
}

/** What can happen at the wheel. */
export type What =
  | 'overcut'
  | 'chip'
  | 'flaw'
  | 'pit'
  | 'wrong-index'
  | 'wrong-angle'
  | 'lap-charged'
  | 'lap-changed'
  | 'cheater'
  | 'compound'
  | 'bond-failed'
  | 'photo';

/** Something that happened at the wheel. */
export interface Happened {
  what: What;
  at?: Visit;
  /** How deep it goes. */
  mm?: number;
  /** Where it was seen on the stone, in mm: it lies so deep under that. */
  point?: [number, number, number];
  /** By how many teeth, for a wrong index, or degrees. */
  by?: number;
  /** What was taken: a lap, a compound, a picture's name. */
  with?: string;
}

/** What is measured in the middle of the work, in mm. */
export interface Measured {
  what: 'girdle' | 'diameter' | 'height';
  mm: number;
}

/** What the height dial showed when a facet was finished, in mm. */
export interface Reading {
  at: Visit;
  mm: number;
}

/**
 * What can happen, by kind. A kind that is not here comes from a newer version: it is kept and
 * counts for nothing.
 */
export type Happening =
  | { kind: 'done'; payload: Visit & { dials?: Dials; left?: true } }
  | { kind: 'skip' | 'jump'; payload: Visit }
  | { kind: 'again'; payload: Reopening }
  | { kind: 'happened'; payload: Happened }
  | { kind: 'reading'; payload: Reading }
  | { kind: 'measured'; payload: Measured }
  | { kind: 'check'; payload: { setup: string; item: string } }
  | { kind: 'transfer'; payload: { setup: string } }
  | { kind: 'dopped'; payload: Dopping }
  | { kind: 'vetted'; payload: { plan: number; open: string[] } }
  | { kind: 'note'; payload: { text: string; at?: Visit } }
  | { kind: 'undo'; payload: { undoes: string } }
  | { kind: 'begin' | 'end' | 'pause' | 'resume'; payload: Record<string, never> };

/** What only the server writes. */
type Told =
  | { kind: 'plan'; payload: Asked }
  | { kind: 'agree'; payload: { was: string; is: string } }
  | { kind: 'surveyed'; payload: { from: string; planes: number[][] } }
  | { kind: 'finish'; payload: Record<string, never> };

type Wire = components['schemas']['Event'];

interface Envelope extends Omit<Wire, 'kind' | 'payload'> {
  /** 1 while only this browser has it, 0 once the server's disk has. */
  held: 0 | 1;
}

/** The newest form of a kind's payload that this version knows. */
export const newestOf = (kind: string): number => ({ plan: 3, note: 2, done: 2 })[kind] ?? 1;

/** The form in which an entry is written: a tick that says no more than its visit is one that older versions know, too. */
export const formOf = (h: Happening): number =>
  h.kind === 'done' && !h.payload.dials && !h.payload.left ? 1 : newestOf(h.kind);

/** An entry of a log, as this browser keeps it. */
export type LogEvent = Envelope & (Happening | Told);

/** An entry as the server tells it: it is on disk. */
export const fromServer = (e: Wire): LogEvent => ({ ...e, held: 0 }) as unknown as LogEvent;
