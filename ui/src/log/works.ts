import { ApiProblem, type BenchScript, type RunScript } from '../api/client';
import { kept } from './browser';
import { streamOf, type LogEvent } from './events';

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

/** What a visit is called at the bench. */
export interface VisitNames {
  stone: string;
  tier: string;
  tooth: number;
  pass: string;
}

/** The names of a visit, where a bench that was opened here knows them. */
export async function namesOf(event: LogEvent): Promise<VisitNames | undefined> {
  if (event.kind !== 'done' && event.kind !== 'skip') return undefined;
  for (const { work } of await kept.works.toArray().catch(() => [])) {
    const opened = work as BenchScript | RunScript;
    const one =
      'stones' in opened ? opened.stones.find((s) => streamOf(s.workId) === event.stream) : opened;
    const script = 'stones' in opened ? opened.script : opened;
    if (!one || streamOf(one.workId) !== event.stream) continue;
    const facet = script.facets?.find((f) => f.id === event.payload.facet);
    if (!facet) continue;
    return {
      stone: `${one.number} · ${one.name}`,
      tier: facet.tier,
      tooth: facet.dial.tooth,
      pass: script.passes.find((p) => p.id === event.payload.pass)?.name ?? '',
    };
  }
  return undefined;
}
