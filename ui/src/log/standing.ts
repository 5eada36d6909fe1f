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
  /** How many visits are done; what was left out in one pass and cut in a later one is. */
  done: number;
  /** Places of visits that were left out and are still open: no later pass has cut the facet. */
  skipped: number[];
  /** What is done with the stone before the next visit, or after the last; '' for nothing. */
  gate: Gate | '';
  /** Items of the gate that are checked. */
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
  const gate = gateOf(script, at, log);
  const setup = script.visits[at]?.setup;
  const checked = new Set(
    script.checks.map((c) => c.item).filter((item) => log.checks.has(`${setup}/${item}`)),
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
    last: lastAct(log),
  };
}

/** What has to be done with the stone before work goes on. */
export type Gate = BenchScript['checks'][number]['gate'];

function gateOf(script: BenchScript, at: number, log: LogState): Gate | '' {
  const last = script.visits[at - 1];
  const next = script.visits[at];
  const changes = last?.setup !== next?.setup;
  const checked = (setup: string, item: string) => log.checks.has(`${setup}/${item}`);
  if (last?.adapter && (!next?.adapter || changes) && !checked(last.setup, 'adapter-off'))
    return 'adapter-off';
  if (last && next && changes && !log.transfers.has(next.setup)) return 'transfer';
  if (next?.adapter && (!last?.adapter || changes) && !checked(next.setup, 'adapter-on'))
    return 'adapter-on';
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
