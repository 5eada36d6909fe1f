import type { BenchScript } from '../api/client';
import type { LogEvent } from './events';

/** Where a stone of a run stands. */
interface InRun {
  /** Place of the visit that comes next. */
  at: number;
  /** Its card is written. */
  closed: boolean;
}

/**
 * The place of the stone that comes to the wheel now; undefined where all are cut. Tier by tier it
 * is the first of those that are furthest behind, stone by stone the first that is not done. The
 * server has the same rule: standing.fixtures.json holds the two together.
 */
export function nextStone(
  order: string,
  visits: readonly Pick<BenchScript['visits'][number], 'block'>[],
  stones: readonly InRun[],
): number | undefined {
  const open = stones.map((s, i) => ({ ...s, i })).filter((s) => !s.closed && s.at < visits.length);
  if (order === 'stone') return open[0]?.i;
  const block = (s: InRun) => visits[s.at]!.block;
  const first = Math.min(...open.map(block));
  return open.find((s) => block(s) === first)?.i;
}

/**
 * The place of the event that happened last. What the server has is ordered by its arrival, what
 * only this browser has comes after it, in the order of the device: no clock says which.
 */
export function latest(events: readonly (LogEvent | undefined)[]): number | undefined {
  let last: number | undefined;
  events.forEach((e, i) => {
    const before = last === undefined ? undefined : events[last];
    if (e && (!before || after(e, before))) last = i;
  });
  return last;
}

function after(a: LogEvent, b: LogEvent): boolean {
  if (a.held !== b.held) return a.held > b.held;
  return a.held || a.device === b.device ? a.deviceSeq > b.deviceSeq : a.seq > b.seq;
}
