import { useEffect, useRef } from 'react';
import { eachLine, Unreachable } from './client';

/**
 * Work of the server that answers line by line and can be stopped. `each` tells whether a line was
 * the last; an answer that ends before it counts as failed. Leaving the page stops the work.
 */
export function useLines<Line>() {
  const abort = useRef<AbortController>(undefined);
  const stop = () => abort.current?.abort();
  useEffect(() => () => abort.current?.abort(), []);
  const start = async (
    url: string,
    body: unknown,
    each: (line: Line) => boolean,
    failed: (error: Error) => void,
  ) => {
    stop();
    const mine = new AbortController();
    abort.current = mine;
    let ended = false;
    try {
      await eachLine<Line>(
        fetch(url, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
          signal: mine.signal,
        }),
        (line) => {
          ended = each(line);
        },
      );
      // The server went away before it was done.
      if (!ended) throw new Unreachable('unreachable');
    } catch (error) {
      if (!mine.signal.aborted) failed(error as Error);
    }
  };
  return { start, stop };
}
