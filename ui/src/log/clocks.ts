import { remember, remembered, rememberedKeys } from './remember';

/**
 * Clocks that run down while the page is closed: this browser remembers when each ends, what it is
 * for, and where it was started.
 */
export interface RunningClock {
  key: string;
  /** When it ends, in ms. */
  end: number;
  what: string;
  /** The address of the room that it belongs to. */
  to: string;
}

const prefix = 'cressa-clock/';

/** The clock of a key, undefined where it does not run. */
export function clockOf(key: string): RunningClock | undefined {
  const text = remembered(prefix + key);
  if (text === null) return undefined;
  try {
    const { end, what, to } = JSON.parse(text) as Omit<RunningClock, 'key'>;
    return Number.isFinite(end) ? { key, end, what, to } : undefined;
  } catch {
    return undefined;
  }
}

/** Starts a clock, or starts it anew. */
export const startClock = ({ key, ...clock }: RunningClock): void =>
  remember(prefix + key, JSON.stringify(clock));

export const stopClock = (key: string): void => remember(prefix + key, null);

/** All clocks that run or have run down, the one that ends first first. */
export const clocks = (): RunningClock[] =>
  rememberedKeys(prefix)
    .map((k) => clockOf(k.slice(prefix.length)))
    .filter((c) => c !== undefined)
    .sort((a, b) => a.end - b.end);
