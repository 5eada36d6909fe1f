import type { LogEvent } from './events';
import type { LogState } from './fold';

/** Two screens that say of one visit what does not go together. */
export interface Disagreement {
  /** The visit, by visitKey. */
  visit: string;
  /** All that say that it was cut, and the last that says that it was left out. */
  cut: readonly LogEvent[];
  left: LogEvent;
}

/**
 * Where screens disagree: one says that a facet was cut, another that it was left out, and neither knew of the other. A screen
 * leaves out nothing that it knows to be cut; who cuts what was left out may well know it, and does not contradict.
 */
export function disagreements(state: LogState): Disagreement[] {
  const out: Disagreement[] = [];
  for (const [visit, mark] of state.marks) {
    const left = mark.against.at(-1);
    const last = mark.events.at(-1)!;
    if (!left || left.device === last.device) continue;
    const knew = last.kind === 'done' && last.payload.left;
    if (arrivedAfter(left, last) || !knew) out.push({ visit, cut: mark.events, left });
  }
  return out;
}

/** Whether an event came to the server after another, or is still to come. */
const arrivedAfter = (a: LogEvent, b: LogEvent): boolean =>
  a.held !== b.held ? a.held > b.held : a.held === 0 && a.seq > b.seq;
