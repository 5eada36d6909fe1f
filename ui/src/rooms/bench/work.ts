import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { passName } from '../../parts/work/visitWords';
import { angle } from '../../words/numbers';
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

/** What is changed at the machine from the last visit to this one, as people say it. */
export function moves(script: BenchScript, at: number): string[] {
  const visit = script.visits[at]!;
  const { first, pass, from, teeth } = visit.move;
  if (first) return [w.bench.first];
  const facet = script.facets[visit.facet]!;
  const tooth = String(facet.dial.tooth);
  return [
    pass && w.bench.newPass(passName(script, visit.pass)),
    from !== null && w.bench.newAngle(angle(from), angle(facet.reading)),
    teeth > 0 && w.bench.teethOn(teeth, tooth),
    teeth < 0 && w.bench.teethBack(-teeth, tooth),
  ].filter((text) => text !== false);
}
