import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Diagram, SweepHead, SweepLine, SweepRequest } from '../../api/client';
import { useLines } from '../../api/useLines';
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
  const lines = useLines<SweepLine>();
  const start = (body: SweepRequest) => {
    let field = started(body);
    setRun({ state: 'running', done: 0, total: field.points.length, field });
    void lines.start(
      `/api/diagrams/${d.id}/sweeps`,
      body,
      ({ done, total, points, presentX, presentY, kept }) => {
        const all = [...field.points];
        for (const p of points) all[p.no] = p;
        field = { ...field, points: all, present: { x: presentX, y: presentY }, id: kept?.id };
        setRun(kept ? { state: 'done', field } : { state: 'running', done, total, field });
        if (kept) {
          onKept(kept);
          void queries.invalidateQueries({ queryKey: sweepsQuery(d.id).queryKey });
        }
        return kept !== null;
      },
      (error) => setRun({ state: 'failed', error }),
    );
  };
  return {
    run,
    start,
    stop: () => {
      lines.stop();
      setRun((r) => (r.state === 'running' ? { state: 'stopped', field: r.field } : r));
    },
    clear: () => setRun({ state: 'idle' }),
  };
}
