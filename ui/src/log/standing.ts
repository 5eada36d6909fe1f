import type { BenchScript } from '../api/client';
import type { LogEvent, Visit } from './events';
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
  /** The stone has to be turned over before the next visit. */
  transfer: boolean;
  /** Items of the transfer that are checked. */
  checked: Set<string>;
  /** The last event that can be taken back. */
  last: LogEvent | undefined;
}

/** The visit at a place of a script. */
export function visitOf(script: BenchScript, i: number): Visit {
  const { setup, pass, facet } = script.visits[i]!;
  return { setup, pass, facet: script.facets[facet]!.id };
}

export function standingOf(script: BenchScript, log: LogState): BenchState {
  const visited = script.visits.map((_, i) => log.marks.get(visitKey(visitOf(script, i))));
  const open = visited.findIndex((m) => m === undefined);
  const at = open < 0 ? script.visits.length : open;
  const setup = script.visits[at]?.setup;
  const begins = at > 0 && setup !== undefined && script.visits[at - 1]!.setup !== setup;
  const checked = new Set(
    script.checks.map((c) => c.item).filter((item) => log.checks.has(`${setup}/${item}`)),
  );
  return {
    at,
    step: stepOf(script, visited),
    visited,
    transfer: begins && !log.transfers.has(setup),
    checked,
    last: lastAct(log),
  };
}

/** The picture shows every facet up to the furthest one that has been cut. */
function stepOf(script: BenchScript, visited: BenchState['visited']): number {
  let furthest = -1;
  visited.forEach((m, i) => {
    if (m?.kind === 'done') furthest = Math.max(furthest, script.visits[i]!.facet);
  });
  return furthest + 1;
}
