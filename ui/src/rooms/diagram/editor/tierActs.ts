import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import type { Draft, DraftTier, Reshape } from '../../../api/client';

/** What can be done with a tier in the editor. A tier has a key, and a place in the order. */
export interface TierActs {
  draft: () => Draft;
  select: (key: string) => void;
  change: (key: string, change: Partial<DraftTier>, at?: string) => void;
  move: (from: number, to: number) => void;
  remove: (key: string) => void;
  pull: (key: string) => void;
  /** Looks at the stone without the tier, or with it again. */
  off: (key: string) => void;
  reshape: (key: string, how: Reshape) => void;
  /** Shows a better cutting order. */
  mend: () => void;
  enter: (e: KeyboardEvent, place: number) => void;
}

/**
 * Acts that stay the same object and always do what the newest ones do, so that a row is drawn
 * anew only when what it shows has changed.
 */
export function useTierActs(now: TierActs): TierActs {
  const latest = useRef(now);
  useEffect(() => {
    latest.current = now;
  });
  return useMemo(
    () => ({
      draft: () => latest.current.draft(),
      select: (key) => latest.current.select(key),
      change: (key, change, at) => latest.current.change(key, change, at),
      move: (from, to) => latest.current.move(from, to),
      remove: (key) => latest.current.remove(key),
      pull: (key) => latest.current.pull(key),
      off: (key) => latest.current.off(key),
      reshape: (key, how) => latest.current.reshape(key, how),
      mend: () => latest.current.mend(),
      enter: (e, i) => latest.current.enter(e, i),
    }),
    [],
  );
}
