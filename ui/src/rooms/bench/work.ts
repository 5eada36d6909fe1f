import type { BenchScript } from '../../api/client';
import type { Happening } from '../../log/events';
import type { Mark } from '../../log/fold';
import type { BenchState } from '../../log/standing';
import { passName } from '../../parts/work/visitWords';
import { angle, plain } from '../../words/numbers';
import { w } from '../../words/words';

/** What Done ticks. */
export type Habit = 'facet' | 'round' | 'tier';

/** Places of the visits that Done ticks: the next one, or what is open of its round or tier. */
export function ticked(script: BenchScript, state: BenchState, habit: Habit): number[] {
  const next = script.visits[state.at];
  if (!next) return [];
  const end = { facet: state.at + 1, round: next.roundEnd, tier: next.blockEnd }[habit];
  const places = Array.from({ length: end - state.at }, (_, i) => state.at + i);
  return places.filter((i) => !state.visited[i]);
}

/** A facet as it is called at the wheel: its tier and its index. */
export function facetName(script: BenchScript, at: number): string {
  const facet = script.facets[script.visits[at]!.facet]!;
  return w.bench.facet(facet.tier, facet.dial.tooth);
}

/** Places of the visits that are done, on whatever side, and of the one on the screen. */
export const cutSoFar = (state: BenchState, shown: number | undefined): number[] =>
  state.visited.flatMap((m, i) => (i === shown || m?.kind === 'done' ? [i] : []));

/** Place of the visit that was done last, undefined where none was. */
export function lastCut(state: BenchState): number | undefined {
  const done = state.visited.map((m) => (m?.kind === 'done' ? m.n : 0));
  const last = done.indexOf(Math.max(...done));
  return done[last] ? last : undefined;
}

/** What the last act was a part of: the visits to one tier in one pass, as far as they are marked. */
export function lastTier(script: BenchScript, state: BenchState): number[] {
  const { last } = state;
  const at = state.visited.findIndex((m) => m?.events.some((e) => e.id === last?.id));
  const of = script.visits[at];
  if (!of) return [];
  const own = (i: number) => {
    const v = script.visits[i];
    return state.visited[i] && v?.block === of.block && v.pass === of.pass;
  };
  return script.visits.flatMap((_, i) => (own(i) ? [i] : []));
}

/** The last entry of each device that says so: whoever takes a tick back that two screens made knows of both. */
const ofEachDevice = (mark: Mark): string[] => [
  ...new Map(mark.events.map((e) => [e.device, e.id])).values(),
];

/** What Back adds to the log: the last act is taken back or, over a whole tier, all of its marks. */
export function takenBack(script: BenchScript, state: BenchState, wholeTier: boolean): Happening[] {
  const tier = wholeTier ? lastTier(script, state) : [];
  const ids = tier.flatMap((i) => ofEachDevice(state.visited[i]!));
  const { last } = state;
  if (ids.length === 0 && last) {
    const mark = state.visited.find((m) => m?.events.some((e) => e.id === last.id));
    ids.push(...(mark ? ofEachDevice(mark) : [last.id]));
  }
  return ids.map((undoes) => ({ kind: 'undo', payload: { undoes } }));
}

/**
 * The skipped facets of the pass that has just ended, from which the work would go on without them.
 */
export function leftInPass(script: BenchScript, state: BenchState): number[] {
  const { at } = state;
  const before = script.visits[at - 1];
  const next = script.visits[at];
  if (!before || !next || (before.pass === next.pass && before.setup === next.setup)) return [];
  return state.skipped.filter((i) => {
    const v = script.visits[i]!;
    return v.pass === before.pass && v.setup === before.setup;
  });
}

/**
 * The visit before, where the machine still stands as that left it: nothing was cut since out of turn, and the
 * stone was not turned over.
 */
export function stoodAt(script: BenchScript, state: BenchState, at: number) {
  const before = script.visits[at - 1];
  const newest = Math.max(...state.visited.map((m) => m?.n ?? 0));
  const stays = state.visited[at - 1]?.n === newest;
  return stays && before?.setup === script.visits[at]!.setup ? before : undefined;
}

/** What is changed at the machine from the last visit to this one, as people say it. */
export function moves(script: BenchScript, state: BenchState, at: number): string[] {
  const visit = script.visits[at]!;
  const { first, pass, from, teeth } = visit.move;
  if (first) {
    const setup = script.setups.find((s) => s.id === visit.setup);
    return [setup?.up === '' ? w.bench.firstUp : w.bench.first];
  }
  if (!stoodAt(script, state, at)) return [w.bench.setAnew];
  const facet = script.facets[visit.facet]!;
  const tooth = String(facet.dial.tooth);
  return [
    pass && w.bench.newPass(passName(script, visit.pass)),
    from !== null &&
      (facet.hole
        ? w.bench.newHole(facet.hole.no, plain(facet.hole.peg))
        : w.bench.newAngle(angle(from), angle(facet.reading))),
    teeth > 0 && w.bench.teethOn(teeth, tooth),
    teeth < 0 && w.bench.teethBack(-teeth, tooth),
  ].filter((text) => text !== false);
}
