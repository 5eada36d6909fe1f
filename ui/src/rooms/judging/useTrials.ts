import { useState } from 'react';
import type { ToleranceLine, ToleranceRequest, ToleranceResult } from '../../api/client';
import { useLines } from '../../api/useLines';

type Run =
  | { state: 'idle' | 'stopped' }
  | { state: 'running'; done: number; total: number }
  | { state: 'done'; result: ToleranceResult }
  | { state: 'failed'; error: Error };

/** Stones cut with errors by the server: how far it is, what came of it, and a way to stop. */
export function useTrials() {
  const [run, setRun] = useState<Run>({ state: 'idle' });
  const lines = useLines<ToleranceLine>();
  const start = (body: ToleranceRequest) => {
    setRun({ state: 'running', done: 0, total: 0 });
    void lines.start(
      '/api/tolerance',
      body,
      ({ done, total, result }) => {
        setRun(result ? { state: 'done', result } : { state: 'running', done, total });
        return result !== null;
      },
      (error) => setRun({ state: 'failed', error }),
    );
  };
  const stop = () => {
    lines.stop();
    setRun({ state: 'stopped' });
  };
  return { run, start, stop };
}
