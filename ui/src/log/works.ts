import { ApiProblem } from '../api/client';
import { kept } from './browser';

/** How long the network is waited for before what is kept is shown, in ms. */
const race = 2000;

/**
 * Fetches what a bench shows and keeps it. Where the network is away, or does not answer in time,
 * what was kept is shown; a refusal of the server is told.
 */
export async function keptWork<T>(
  path: string,
  fetch: (signal: AbortSignal) => Promise<T>,
): Promise<T> {
  const before = await kept.works.get(path).catch(() => undefined);
  try {
    const signal = before ? AbortSignal.timeout(race) : new AbortController().signal;
    const work = await fetch(signal);
    await kept.works.put({ path, work }).catch(() => {});
    return work;
  } catch (e) {
    if (before && !(e instanceof ApiProblem && e.problem.status < 500)) return before.work as T;
    throw e;
  }
}

/** Whether what a bench shows is kept, so that it can be opened without the network. */
export const isKept = async (path: string): Promise<boolean> =>
  (await kept.works
    .where('path')
    .equals(path)
    .count()
    .catch(() => 0)) > 0;
