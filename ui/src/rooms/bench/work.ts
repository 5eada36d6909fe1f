import type { BenchFacet, BenchScript, Dial } from '../../api/client';
import { angle, signed } from '../../words/numbers';
import { w } from '../../words/words';
import type { BenchState } from './state';

/** What Done ticks. */
export type Habit = 'facet' | 'round' | 'tier';

/** Places of the visits that Done ticks: the next one, its round, or what is left of its tier. */
export function ticked(script: BenchScript, state: BenchState, habit: Habit): number[] {
  const next = script.visits[state.at];
  if (!next) return [];
  const tier = (i: number) => script.facets[script.visits[i]!.facet]!.tier;
  const out: number[] = [];
  for (let i = state.at; i < script.visits.length; i++) {
    const v = script.visits[i]!;
    const same = habit === 'round' ? v.round === next.round : tier(i) === tier(state.at);
    if (
      v.setup !== next.setup ||
      v.pass !== next.pass ||
      !same ||
      (habit === 'facet' && out.length > 0)
    )
      break;
    if (!state.visited[i]) out.push(i);
  }
  return out;
}

/** Steps of the picture before and after a visit. After the first pass the side is cut already. */
export function pictureSteps(script: BenchScript, at: number): { now: number; after: number } {
  const visit = script.visits[at]!;
  const facet = script.facets[visit.facet]!;
  if (visit.pass === script.passes[0]!.id) return { now: visit.facet, after: visit.facet + 1 };
  const end = script.facets.findLastIndex((f) => f.setup === facet.setup) + 1;
  return { now: end, after: end };
}

/** The move that the hand makes from the last visit to this one, as people say it. */
export function moves(script: BenchScript, at: number): string[] {
  const visit = script.visits[at]!;
  const before = script.visits[at - 1];
  if (!before || before.setup !== visit.setup) return [w.bench.first];
  const from = script.facets[before.facet]!;
  const to = script.facets[visit.facet]!;
  const out: string[] = [];
  if (before.pass !== visit.pass) out.push(w.bench.newPass(passName(script, visit.pass)));
  if (from.reading !== to.reading)
    out.push(w.bench.newAngle(angle(from.reading), angle(to.reading)));
  out.push(...teeth(from, to, script.gear));
  return out;
}

function teeth(from: BenchFacet, to: BenchFacet, gear: number): string[] {
  const on = (to.dial.tooth - from.dial.tooth + gear) % gear;
  if (on === 0) return [];
  return on <= gear / 2
    ? [w.bench.teethOn(on, String(to.dial.tooth))]
    : [w.bench.teethBack(gear - on, String(to.dial.tooth))];
}

export function passName(script: BenchScript, id: string): string {
  const pass = script.passes.find((p) => p.id === id);
  return pass ? w.bench.pass(pass.name, pass.lap) : '';
}

/** A cheat as it is told beside its tooth, nothing where there is none. */
export function cheatOf(dial: Dial, cheater: string): string {
  if (Math.abs(dial.cheat) < 0.005) return '';
  if (cheater === 'none') return w.bench.cheatMissing(signed(dial.cheat));
  if (cheater === 'turns') return w.bench.cheatTurns(signed(dial.cheatTurns), signed(dial.cheat));
  return w.bench.cheat(signed(dial.cheat));
}
