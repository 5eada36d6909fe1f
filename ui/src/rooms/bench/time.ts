import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';

/** What is left of one pass of a side. */
interface Step {
  setup: string;
  pass: string;
  cuts: number;
  minutes: number;
}

/** Places of the visits that are open, in the order of the work: from the next one on, then the rest. */
function openPlaces(script: BenchScript, state: BenchState): number[] {
  const open = script.visits.flatMap((_, i) => (state.visited[i] === undefined ? [i] : []));
  return [...open.filter((i) => i >= state.at), ...open.filter((i) => i < state.at)];
}

/** What is left, step by step. */
export function leftOf(script: BenchScript, state: BenchState): Step[] {
  const steps = new Map<string, Step>();
  for (const i of openPlaces(script, state)) {
    const { setup, pass, minutes } = script.visits[i]!;
    const key = `${setup} ${pass}`;
    const step = steps.get(key) ?? { setup, pass, cuts: 0, minutes: 0 };
    steps.set(key, { ...step, cuts: step.cuts + 1, minutes: step.minutes + minutes });
  }
  return [...steps.values()];
}

/** How many cuts fit into so many minutes, the last of them, and whether that is all. */
export function fitting(script: BenchScript, state: BenchState, minutes: number) {
  const open = openPlaces(script, state);
  let cuts = 0;
  let left = minutes;
  for (const i of open) {
    left -= script.visits[i]!.minutes;
    if (left < 0) break;
    cuts++;
  }
  return { cuts, last: open[cuts - 1] ?? -1, all: cuts === open.length };
}

/** The next time that a clock shows hh:mm, in ms; undefined where that is no time. */
export function nextTime(text: string, now: number): number | undefined {
  const [, hour, minute] = /^(\d{1,2}):(\d{2})$/.exec(text) ?? [];
  if (hour === undefined) return undefined;
  const at = new Date(now);
  at.setHours(Number(hour), Number(minute), 0, 0);
  return at.getTime() > now ? at.getTime() : at.getTime() + 24 * 3_600_000;
}
