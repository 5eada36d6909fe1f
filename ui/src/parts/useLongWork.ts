import { useCallback, useEffect, useRef, useState } from 'react';
import { Unreachable } from '../api/client';
import type { LongWork } from '../api/longWork';

/** What every line of long work tells. */
interface Told {
  done: number;
  total: number;
  ended?: string;
}

/**
 * Long work of the server: found again where it is under way, followed while the caller is on
 * screen, begun and stopped; looked for `again` where the server was away. `state` is what the lines so far come to, undefined where nothing was
 * ever begun; `ran` tells whether it was under way while the caller was on screen.
 */
export function useLongWork<Asked, Line extends Told, State>(
  work: LongWork<Asked, Line>,
  next: (before: State | undefined, line: Line) => State,
) {
  const [state, setState] = useState<State>();
  const [ended, setEnded] = useState<string>();
  const [ran, setRan] = useState(false);
  const [error, setError] = useState<Error | null>(null);
  const latest = useRef({ work, next });
  useEffect(() => {
    latest.current = { work, next };
  });
  const following = useRef<AbortController>(undefined);

  const follow = useCallback(async (mine: AbortController) => {
    let now: State | undefined;
    let end: string | undefined;
    try {
      await latest.current.work.follow((line) => {
        // What comes late belongs to work that is not followed any more.
        if (mine.signal.aborted) return;
        now = latest.current.next(now, line);
        end = line.ended ?? '';
        setState(now);
        setEnded(end);
        if (end === '') setRan(true);
      }, mine.signal);
      // The server went away before it was done.
      if (end === '') throw new Unreachable('unreachable');
    } catch (e) {
      if (!mine.signal.aborted) setError(e as Error);
    }
  }, []);
  // A new follower takes the place of the one before.
  const begin = useCallback(() => {
    following.current?.abort();
    following.current = new AbortController();
    return follow(following.current);
  }, [follow]);
  useEffect(() => {
    void begin();
    return () => following.current?.abort();
  }, [begin]);

  const start = async (asked: Asked) => {
    setError(null);
    try {
      await work.start(asked);
    } catch (e) {
      return setError(e as Error);
    }
    setRan(true);
    await begin();
  };
  // What was followed may be gone with the server that had it.
  const again = useCallback(() => {
    setError(null);
    setState(undefined);
    setEnded(undefined);
    void begin();
  }, [begin]);
  return {
    state,
    running: ended === '' && error === null,
    ran,
    ended,
    error,
    start: (asked: Asked) => void start(asked),
    again,
    stop: () => void work.stop().catch((e: Error) => setError(e)),
  };
}
