import type { BenchScript } from '../../api/client';
import type { LogEvent } from '../../log/events';

/** For every visit the number of its block: visits to one tier in one pass of one setup. */
export function blocksOf(script: BenchScript): number[] {
  let block = -1;
  let last = '';
  return script.visits.map((v) => {
    const name = `${v.setup}/${v.pass}/${script.facets[v.facet]!.tier}`;
    if (name !== last) block++;
    last = name;
    return block;
  });
}

/** The place of the stone that comes to the wheel now; undefined where all are cut. */
export function nextStone(
  way: string,
  blocks: readonly number[],
  stones: readonly { at: number; closed: boolean }[],
): number | undefined {
  const open = stones.map((s, i) => ({ ...s, i })).filter((s) => !s.closed && s.at < blocks.length);
  if (way === 'stone') return open[0]?.i;
  const first = Math.min(...open.map((s) => blocks[s.at]!));
  return open.find((s) => blocks[s.at] === first)?.i;
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
