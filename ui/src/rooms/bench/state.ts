import type { BenchEvent, BenchScript } from '../../api/client';

/** Where the work on a stone stands, derived from its script and its log. */
export interface BenchState {
  /** Place of the visit that comes next, the number of visits where all are done. */
  at: number;
  /** Steps of the picture that are cut: every facet that had its first cut. */
  step: number;
  /** For every visit the event that did or skipped it. */
  visited: (BenchEvent | undefined)[];
  /** The stone has to be turned over before the next visit. */
  transfer: boolean;
  /** Items of the transfer that are checked. */
  checked: Set<string>;
  /** The last event that can be taken back. */
  last: BenchEvent | undefined;
}

const key = (setup: string, pass: string, facet: string) => `${setup}/${pass}/${facet}`;

/** Events that stand: not taken back, and no undo themselves. */
export function standing(events: readonly BenchEvent[]): BenchEvent[] {
  const undone = new Set(events.filter((e) => e.kind === 'undo').map((e) => e.undoes));
  return events.filter((e) => e.kind !== 'undo' && !undone.has(e.id));
}

export function benchState(script: BenchScript, events: readonly BenchEvent[]): BenchState {
  const stands = standing(events);
  const byVisit = new Map<string, BenchEvent>();
  for (const e of stands) {
    if (e.kind === 'done' || e.kind === 'skip') byVisit.set(key(e.setup, e.pass, e.facet), e);
  }
  const visited = script.visits.map((v) =>
    byVisit.get(key(v.setup, v.pass, script.facets[v.facet]!.id)),
  );
  const open = visited.findIndex((e) => e === undefined);
  const at = open < 0 ? script.visits.length : open;
  const setup = script.visits[at]?.setup;
  const begins = at > 0 && setup !== undefined && script.visits[at - 1]!.setup !== setup;
  const transfer = begins && !stands.some((e) => e.kind === 'transfer' && e.setup === setup);
  const checked = new Set(
    stands.filter((e) => e.kind === 'check' && e.setup === setup).map((e) => e.item),
  );
  return { at, step: stepOf(script, visited), visited, transfer, checked, last: lastOf(stands) };
}

/** The picture shows every facet up to the furthest one that has been cut. */
function stepOf(script: BenchScript, visited: BenchState['visited']): number {
  let furthest = -1;
  visited.forEach((e, i) => {
    if (e?.kind === 'done') furthest = Math.max(furthest, script.visits[i]!.facet);
  });
  return furthest + 1;
}

function lastOf(stands: BenchEvent[]): BenchEvent | undefined {
  return stands.findLast((e) => e.kind !== 'plan' && e.kind !== 'note');
}
