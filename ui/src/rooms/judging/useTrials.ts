import { useEffect, useRef, useState } from 'react';
import {
  eachLine,
  Unreachable,
  type ToleranceLine,
  type ToleranceRequest,
  type ToleranceResult,
} from '../../api/client';

type Run =
  | { state: 'idle' | 'stopped' }
  | { state: 'running'; done: number; total: number }
  | { state: 'done'; result: ToleranceResult }
  | { state: 'failed'; error: Error };

/** Stones cut with errors by the server: how far it is, what came of it, and a way to stop. */
export function useTrials() {
  const [run, setRun] = useState<Run>({ state: 'idle' });
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);
  const start = async (body: ToleranceRequest) => {
    abort.current?.abort();
    const mine = new AbortController();
    abort.current = mine;
    setRun({ state: 'running', done: 0, total: 0 });
    let ended = false;
    try {
      await eachLine<ToleranceLine>(
        fetch('/api/tolerance', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
          signal: mine.signal,
        }),
        ({ done, total, result }) => {
          ended = result !== null;
          setRun(result ? { state: 'done', result } : { state: 'running', done, total });
        },
      );
      // The server went away before it had the result.
      if (!ended) throw new Unreachable('unreachable');
    } catch (error) {
      if (mine.signal.aborted) return;
      setRun({ state: 'failed', error: error as Error });
    }
  };
  const stop = () => {
    abort.current?.abort();
    setRun({ state: 'stopped' });
  };
  return { run, start: (body: ToleranceRequest) => void start(body), stop };
}
