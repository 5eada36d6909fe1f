import { useEffect, useState, useSyncExternalStore } from 'react';
import type { BenchScript } from '../../../api/client';
import type { Dials } from '../../../log/events';
import { live } from '../../../live/browser';
import { toKeep } from './compare';

/**
 * What the dials showed when quill and gear last stood where a visit wants them: the quill is lifted before Done is pressed. It
 * is kept aside, and read once Done is: a reading draws nothing anew.
 */
export class AtStop {
  private dials: Dials | undefined;
  private readonly hearers = new Set<() => void>();

  now = (): Dials | undefined => this.dials;

  subscribe = (f: () => void): (() => void) => {
    this.hearers.add(f);
    return () => void this.hearers.delete(f);
  };

  put(dials: Dials | undefined): void {
    if (JSON.stringify(dials) === JSON.stringify(this.dials)) return;
    this.dials = dials;
    this.hearers.forEach((f) => f());
  }
}

/** Watches the dials for a visit as long as it stands on the screen. */
export function useDials(script: BenchScript, at: number | undefined): AtStop {
  const [atStop] = useState(() => new AtStop());
  useEffect(() => {
    atStop.put(undefined);
    if (at === undefined) return;
    const facet = script.facets[script.visits[at]!.facet]!;
    const look = () => {
      const dials = toKeep(live.readings(), facet, script.gear);
      if (dials) atStop.put(dials);
    };
    look();
    return live.onReadings(look);
  }, [atStop, script, at]);
  return atStop;
}

/** What will be kept with Done. */
export const useKept = (atStop: AtStop): Dials | undefined =>
  useSyncExternalStore(atStop.subscribe, atStop.now);
