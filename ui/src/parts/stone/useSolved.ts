import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import type { Draft, Held, Solved, StoneView } from '../../api/client';
import { solveQuery } from '../../api/solving';

interface Result {
  /** What the server last said of a draft. */
  solved: Solved | undefined;
  /** The stone to show: the newest that could be cut, else how far the present one comes. */
  shown: StoneView | undefined;
  /** The stone shown is an older one than the draft makes. */
  behind: boolean;
  /** The newest draft that is known to make a whole stone. */
  whole: Draft | undefined;
}

interface Options {
  /** Keys of tiers that are left off, to look at the stone without them. */
  off?: string[];
  /** Another gear to show the stone on; 0 is the diagram's own. */
  gear?: number;
  /** A tier whose plane is held elsewhere than its stop says. */
  held?: Held | null;
}

const none: string[] = [];

/**
 * The stone that a draft makes. It follows while the draft is typed; an answer that comes late is
 * dropped, because it belongs to the key of another draft.
 */
export function useSolved(
  draft: Draft,
  { off = none, gear = 0, held = null }: Options = {},
): Result {
  const query = useQuery(solveQuery(draft, off, gear, held));
  const [good, setGood] = useState<StoneView>();
  const [whole, setWhole] = useState<{ solved: Solved; draft: Draft }>();
  const solved = query.data;
  const fresh = solved?.stone ?? undefined;
  if (fresh?.complete && fresh !== good) setGood(fresh);
  if (solved && fresh?.complete && !query.isPlaceholderData && solved !== whole?.solved) {
    setWhole({ solved, draft });
  }
  const open = solved?.problems.every((p) => p.code === 'block-left');
  const shown = open ? fresh : (good ?? fresh);
  return { solved, shown, behind: shown !== fresh, whole: whole?.draft };
}

/** Keys of the tiers that are left off to look at the stone without them, and what changes one. */
export function useLeftOff(): [off: string[], toggle: (key: string) => void] {
  const [off, setOff] = useState<string[]>([]);
  const toggle = useCallback(
    (key: string) =>
      setOff((list) => (list.includes(key) ? list.filter((k) => k !== key) : [...list, key])),
    [],
  );
  return [off, toggle];
}
