import type { BenchScript } from '../../api/client';
import type { Reopening } from '../../log/events';
import { visitOf, type BenchState } from '../../log/standing';

/** A tier in a pass that is open: the work can go on with it. */
export interface Onward {
  /** Place of its first open visit. */
  place: number;
  open: number;
  /** How many open visits before it wait until later. */
  over: number;
  /** Tiers before it that are not cut at all. */
  uncut: string[];
}

const tierAt = (script: BenchScript, i: number): string =>
  script.facets[script.visits[i]!.facet]!.tier;

/** Where the work can go on out of turn, on the side that is up: any tier of any lap but the next one. */
export function onwards(script: BenchScript, state: BenchState): Onward[] {
  const setup = script.visits[state.at]?.setup;
  const open = script.visits.flatMap((v, i) =>
    v.setup === setup && state.visited[i] === undefined ? [i] : [],
  );
  const seen = new Set<number>();
  return open.flatMap((i) => {
    const { block, first } = script.visits[i]!;
    if (seen.has(block)) return [];
    seen.add(block);
    const own = open.filter((k) => script.visits[k]!.block === block);
    if (own.includes(state.at)) return [];
    const before = open.filter((k) => k < i);
    const uncut = first ? before.filter((k) => script.visits[k]!.first) : [];
    return [
      {
        place: i,
        open: own.length,
        over: before.length,
        uncut: [...new Set(uncut.map((k) => tierAt(script, k)))],
      },
    ];
  });
}

/** A tier that can be cut again, from one of its laps on. */
export interface Again extends Reopening {
  tier: string;
  /** The lap that it goes back to. */
  pass: string;
  /** How many cuts are open again, and the minutes that they take. */
  cuts: number;
  minutes: number;
  /** The damage of that lap in µm where the tier had a finer one already; 0 where it is not known. */
  pits: number | undefined;
}

/** What can be cut again on the side that is up: each tier from each lap that it has had, the last first. */
export function repeats(script: BenchScript, state: BenchState): Again[] {
  const setup = (script.visits[state.at] ?? script.visits.at(-1))?.setup;
  const done = script.visits.flatMap((v, i) => (v.setup === setup && state.visited[i] ? [i] : []));
  const tiers = [...new Set(done.map((i) => tierAt(script, i)))].reverse();
  return tiers.flatMap((tier) => {
    const own = done.filter((i) => tierAt(script, i) === tier);
    const passes = [...new Set(own.map((i) => script.visits[i]!.pass))];
    return passes
      .map((pass, k) => {
        const from = passes.slice(k);
        const cuts = own.filter((i) => from.includes(script.visits[i]!.pass));
        return {
          tier,
          pass,
          setup: setup!,
          passes: from,
          facets: [...new Set(cuts.map((i) => visitOf(script, i).facet))],
          cuts: cuts.length,
          minutes: cuts.reduce((sum, i) => sum + script.visits[i]!.minutes, 0),
          pits: from.length > 1 ? (lapOf(script, pass)?.leaves ?? 0) : undefined,
        };
      })
      .reverse();
  });
}

/** What to mind at the lap of a pass; a script that an older build has kept knows nothing. */
export const lapOf = (script: BenchScript, pass: string): BenchScript['laps'][number] | undefined =>
  (script.laps as BenchScript['laps'] | undefined)?.find((l) => l.pass === pass);

/** Whether a visit's first cut comes before that of a tier that the plan cuts earlier. */
export function isOutOfTurn(script: BenchScript, state: BenchState, at: number): boolean {
  const visit = script.visits[at]!;
  return (
    visit.first && script.visits.some((v, i) => i < at && v.first && state.visited[i] === undefined)
  );
}
