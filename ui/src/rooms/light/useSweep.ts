import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import {
  eachLine,
  Unreachable,
  type Diagram,
  type SweepHead,
  type SweepLine,
  type SweepRequest,
} from '../../api/client';
import { started, type Field } from './field';
import { sweepsQuery } from './queries';

type Run =
  | { state: 'idle' }
  | { state: 'running'; done: number; total: number; field: Field }
  | { state: 'stopped' | 'done'; field: Field }
  | { state: 'failed'; error: Error; field?: undefined };

/** A sweep by the server: how far it is, the points so far, and a way to stop it. */
export function useSweep(d: Diagram, onKept: (head: SweepHead) => void) {
  const queries = useQueryClient();
  const [run, setRun] = useState<Run>({ state: 'idle' });
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);
  const start = async (body: SweepRequest) => {
    abort.current?.abort();
    const mine = new AbortController();
    abort.current = mine;
    let field = started(body);
    setRun({ state: 'running', done: 0, total: field.points.length, field });
    let ended = false;
    try {
      await eachLine<SweepLine>(
        fetch(`/api/diagrams/${d.id}/sweeps`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
          signal: mine.signal,
        }),
        ({ done, total, points, kept }) => {
          const all = [...field.points];
          for (const p of points) all[p.no] = p;
          field = { ...field, points: all };
          if (!kept) {
            setRun({ state: 'running', done, total, field });
            return;
          }
          ended = true;
          setRun({ state: 'done', field: { ...field, id: kept.id } });
          onKept(kept);
          void queries.invalidateQueries({ queryKey: sweepsQuery(d.id).queryKey });
        },
      );
      // The server went away before it was done.
      if (!ended) throw new Unreachable('unreachable');
    } catch (error) {
      if (mine.signal.aborted) return;
      setRun({ state: 'failed', error: error as Error });
    }
  };
  return {
    run,
    start: (body: SweepRequest) => void start(body),
    stop: () => {
      abort.current?.abort();
      setRun((r) => (r.state === 'running' ? { state: 'stopped', field: r.field } : r));
    },
    clear: () => setRun({ state: 'idle' }),
  };
}
