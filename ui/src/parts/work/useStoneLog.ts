import { useEffect, useMemo, useSyncExternalStore } from 'react';
import { log, sender } from '../../log/browser';
import { streamOf, type Happening, type LogEvent } from '../../log/events';
import type { LogState } from '../../log/fold';
import { isAway, whyOf } from '../../log/sender';
import { live } from '../../live/browser';

/** How often the server is asked what other screens did, in ms: seldom where it tells that by itself. */
const askAgain = 3000;
const askSeldom = 20_000;

export interface StoneLog {
  /** What this browser keeps of the log was read. */
  known: boolean;
  events: readonly LogEvent[];
  state: LogState;
  /** Adds what happened and returns the entries that it became. They count at once. */
  add: (happenings: readonly Happening[]) => LogEvent[];
}

/** The log of a work, kept up with the server while the caller is on screen. */
export const useStoneLog = (workId: string): StoneLog => useStoneLogs([workId])[0]!;

/** The logs of several works, in their order. */
export function useStoneLogs(workIds: readonly string[]): StoneLog[] {
  useSyncExternalStore(log.subscribe, log.changes);
  const all = workIds.join();
  useEffect(() => {
    let over = false;
    let asking = false;
    let more = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async () => {
      clearTimeout(timer);
      // What is told while it is being asked for may be newer than the answer.
      more = asking;
      if (asking) return;
      asking = true;
      for (const id of document.hidden ? [] : all.split(','))
        await sender
          .catchUp(id, streamOf(id))
          .catch((e: unknown) => log.reached(isAway(e), whyOf(e)));
      asking = false;
      if (over) return;
      if (more) void ask();
      else timer = setTimeout(() => void ask(), live.tells() ? askSeldom : askAgain);
    };
    void ask();
    const unsubscribe = live.onLogs((streams) => {
      if (!streams || all.split(',').some((id) => streams.has(streamOf(id)))) void ask();
    });
    return () => {
      over = true;
      clearTimeout(timer);
      unsubscribe();
    };
  }, [all]);
  const adders = useMemo(
    () =>
      all.split(',').map((id) => (happenings: readonly Happening[]) => {
        const made = log.add(streamOf(id), happenings);
        void sender.send();
        return made;
      }),
    [all],
  );
  return workIds.map((id, i) => ({ ...log.snapshot(streamOf(id)), add: adders[i]! }));
}

/** How all logs of this browser stand: what waits, what was refused. */
export const useLogStatus = () => useSyncExternalStore(log.subscribe, log.status);
