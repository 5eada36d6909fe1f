import type { BenchScript } from '../api/client';
import type { Dials, Happening, LogEvent, Visit } from './events';
import { lastAct, visitKey, type LogState, type Mark } from './fold';

/**
 * Where the work on a stone stands, derived from its script and its log. The server has the same
 * rules: standing.fixtures.json holds the two together.
 */
export interface BenchState {
  /** Place of the visit that comes next, the number of visits where all are done. */
  at: number;
  /** Steps of the picture that are cut: every facet that had its first cut. */
  step: number;
  /** For every visit what became of it. */
  visited: (Mark | undefined)[];
  /** How many visits are done; what was left out in one pass and cut in a later one is. */
  done: number;
  /** Places of visits that were left out and are still open: no later pass has cut the facet. */
  skipped: number[];
  /** What is done with the stone before the next visit, or after the last; '' for nothing. */
  gate: Gate | '';
  /** Items of the gate that are checked. */
  checked: Set<string>;
  /** The setup that the stone sits in. */
  sits: string;
  /** The setup that what is checked belongs to: that which comes next, else the one that the stone sits in or came off. */
  setup: string;
  /** The last event that can be taken back. */
  last: LogEvent | undefined;
}

/** The visit at a place of a script. */
export function visitOf(script: BenchScript, i: number): Visit {
  const { setup, pass, facet } = script.visits[i]!;
  return { setup, pass, facet: script.facets[facet]!.id };
}

/** The entry by which a visit is done, with what the dials showed. It says where the visit was known to be left out. */
export function doneAt(
  script: BenchScript,
  visited: BenchState['visited'],
  i: number,
  dials?: Dials,
): Happening {
  const left = visited[i]?.kind === 'skip' && { left: true as const };
  return { kind: 'done', payload: { ...visitOf(script, i), ...(dials && { dials }), ...left } };
}

export function standingOf(script: BenchScript, log: LogState): BenchState {
  const visited = script.visits.map((_, i) => log.marks.get(visitKey(visitOf(script, i))));
  const at = nextOf(script, visited, log);
  const off = cameOff(log);
  const sits = sitsIn(script, log);
  const gate =
    off === undefined ? gateOf(script, at, isOnAdapter(script, visited, log), sits) : 'off-dop';
  const setup = (off === undefined && script.visits[at]?.setup) || sits;
  // What was checked before the stone came off, left the adapter or was turned away from this setup is checked again.
  const since = Math.max(
    off ?? 0,
    log.checks.get(`${setup}/adapter-off`)?.n ?? 0,
    log.turns.findLast((t) => t.setup !== setup)?.n ?? 0,
  );
  const checked = new Set(
    script.checks
      .map((c) => c.item)
      .filter((item) => (log.checks.get(`${setup}/${item}`)?.n ?? 0) > since),
  );
  const skipped = skippedOf(script, visited);
  const done = visited.filter(Boolean).length - skipped.length;
  return {
    at,
    step: stepOf(script, visited),
    visited,
    done,
    skipped,
    gate,
    checked,
    sits,
    setup,
    last: lastAct(log),
  };
}

/** What has to be done with the stone before work goes on. */
export type Gate = BenchScript['checks'][number]['gate'];

/**
 * The visit that comes next: the first that is open. Where the work went on out of turn it stays there,
 * as long as something is open on that side.
 */
function nextOf(script: BenchScript, visited: BenchState['visited'], log: LogState): number {
  const from = movedTo(script, log);
  const there = visited.findIndex(
    (m, i) =>
      m === undefined && i >= from && script.visits[i]!.setup === script.visits[from]?.setup,
  );
  if (from >= 0 && there >= 0) return there;
  const open = visited.findIndex((m) => m === undefined);
  return open < 0 ? script.visits.length : open;
}

/** The place of the visit that the work went on with out of turn, -1 where it did not. */
function movedTo(script: BenchScript, log: LogState): number {
  const last = log.moves.at(-1);
  if (!last) return -1;
  return script.visits.findIndex(
    (v) =>
      v.setup === last.setup &&
      last.passes.includes(v.pass) &&
      last.facets.includes(script.facets[v.facet]!.id),
  );
}

/** Whether the stone sits on the table adapter: what was done last says so. */
function isOnAdapter(script: BenchScript, visited: BenchState['visited'], log: LogState): boolean {
  let last = 0;
  let on = false;
  const told = (n: number, is: boolean) => {
    if (n > last) [last, on] = [n, is];
  };
  visited.forEach((m, i) => m && told(m.n, script.visits[i]!.adapter));
  for (const [key, act] of log.checks) {
    if (key.endsWith('/adapter-on')) told(act.n, true);
    if (key.endsWith('/adapter-off')) told(act.n, false);
  }
  return on;
}

/** The place among all events at which the stone came off its dop, until it is lined up again. */
function cameOff(log: LogState): number | undefined {
  const off = log.happenings.findLast((h) => h.what === 'bond-failed');
  if (!off) return undefined;
  const linedUp = [...log.checks].some(([key, act]) => key.endsWith('/lined-up') && act.n > off.n);
  return linedUp ? undefined : off.n;
}

/**
 * The setup that the stone sits in. Transfers alone tell: a tick can come in late, from a screen that had no
 * network.
 */
const sitsIn = (script: BenchScript, log: LogState): string =>
  log.turns.at(-1)?.setup ?? script.visits[0]?.setup ?? '';

function gateOf(script: BenchScript, at: number, onAdapter: boolean, sits: string): Gate | '' {
  const next = script.visits[at];
  const turns = next !== undefined && next.setup !== sits;
  if (onAdapter && (!next?.adapter || turns)) return 'adapter-off';
  if (turns) return 'transfer';
  if (next?.adapter && !onAdapter) return 'adapter-on';
  return '';
}

function skippedOf(script: BenchScript, visited: BenchState['visited']): number[] {
  const cutLater = new Set<number>();
  const out: number[] = [];
  for (let i = visited.length - 1; i >= 0; i--) {
    const { facet } = script.visits[i]!;
    if (visited[i]?.kind === 'done') cutLater.add(facet);
    else if (visited[i] && !cutLater.has(facet)) out.unshift(i);
  }
  return out;
}

/** The picture shows every facet up to the furthest one that has been cut. */
function stepOf(script: BenchScript, visited: BenchState['visited']): number {
  let furthest = -1;
  visited.forEach((m, i) => {
    if (m?.kind === 'done') furthest = Math.max(furthest, script.visits[i]!.facet);
  });
  return furthest + 1;
}
