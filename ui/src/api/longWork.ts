import {
  answer,
  client,
  eachLine,
  type SweepLine,
  type SweepRequest,
  type ToleranceLine,
  type ToleranceRequest,
} from './client';

/**
 * Work of the server that takes long. It goes on when the page is left; whoever follows it is told
 * all of it from its first line on.
 */
export interface LongWork<Asked, Line> {
  start: (asked: Asked) => Promise<unknown>;
  /** Calls `each` with every line, until the last; with none where nothing was ever started. */
  follow: (each: (line: Line) => void, signal: AbortSignal) => Promise<void>;
  stop: () => Promise<unknown>;
}

/** A diagram's stone cut many times with a machine's errors. */
export const trialsOf = (id: string): LongWork<ToleranceRequest, ToleranceLine> => {
  const at = { params: { path: { id } } };
  return {
    start: (body) => answer(client.POST('/api/diagrams/{id}/tolerance', { ...at, body })),
    follow: (each, signal) => eachLine(fetch(`/api/diagrams/${id}/tolerance`, { signal }), each),
    stop: () => answer(client.DELETE('/api/diagrams/{id}/tolerance', at)),
  };
};

/** A diagram tried at many angles under light. */
export const sweepOf = (id: string): LongWork<SweepRequest, SweepLine> => {
  const at = { params: { path: { id } } };
  return {
    start: (body) => answer(client.POST('/api/diagrams/{id}/sweep', { ...at, body })),
    follow: (each, signal) => eachLine(fetch(`/api/diagrams/${id}/sweep`, { signal }), each),
    stop: () => answer(client.DELETE('/api/diagrams/{id}/sweep', at)),
  };
};
