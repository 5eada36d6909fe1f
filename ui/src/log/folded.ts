import type { LogEvent } from './events';
import { advance, emptyState, ordered, renewed, type LogState } from './fold';

/** A log in the order in which it counts, with what follows from it. */
export interface Folded {
  order: readonly LogEvent[];
  state: LogState;
}

/** Nothing has happened yet. */
export const nothing: Folded = { order: [], state: emptyState() };

/** More entries than this that became others are cheaper folded anew with all the rest. */
const mostRenewed = 200;

/**
 * What follows from a log, from what followed before it changed: a log of many thousand entries is not folded as a
 * whole for each one that is added, or that the server has stored meanwhile.
 */
export function folded(events: readonly LogEvent[], before: Folded): Folded {
  const order = ordered(events);
  const same = before.order.findIndex((e, i) => e.id !== order[i]?.id);
  // What stood there before must be where it was: an entry in between changes what comes after it.
  if (same >= 0) return { order, state: advance(emptyState(), 0, order) };
  const renewals = new Map<string, LogEvent>();
  before.order.forEach((e, i) => e !== order[i] && renewals.set(e.id, order[i]!));
  if (renewals.size > mostRenewed) return { order, state: advance(emptyState(), 0, order) };
  const kept = renewals.size > 0 ? renewed(before.state, renewals) : before.state;
  const more = order.slice(before.order.length);
  return { order, state: more.length > 0 ? advance(kept, before.order.length, more) : kept };
}

/**
 * What follows where some entries at the end became others, undefined where their order may be another one by that:
 * the server counts by the places in which they arrived.
 */
export function renewedIn(before: Folded, by: ReadonlyMap<string, LogEvent>): Folded | undefined {
  const from = before.order.length - by.size;
  const end = before.order.slice(from).map((e) => by.get(e.id));
  const rises = end.every((e, i) => {
    const last = i > 0 ? end[i - 1] : before.order[from - 1];
    return e && (!last || last.held < e.held || (last.held === e.held && last.seq <= e.seq));
  });
  if (!rises) return undefined;
  return {
    order: [...before.order.slice(0, from), ...(end as LogEvent[])],
    state: renewed(before.state, by),
  };
}

/** What follows from a log to which this browser has just added entries: they come last. */
export const addedTo = (before: Folded, made: readonly LogEvent[]): Folded => ({
  order: [...before.order, ...made],
  state: advance(before.state, before.order.length, made),
});
