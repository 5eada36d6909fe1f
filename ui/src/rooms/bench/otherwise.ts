import { useQuery } from '@tanstack/react-query';
import type { AsCut, BenchScript } from '../../api/client';
import { asCutQuery } from '../../api/stones';
import type { What } from '../../log/events';
import type { BenchState } from '../../log/standing';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { isOutOfTurn } from './order';

/** How many of a log's events the server has. */
export const heardOf = (log: StoneLog): number =>
  log.events.reduce((n, e) => (e.held ? n : n + 1), 0);

/** By how many entries the picture may be late while the next one is on its way; without network it is the plan's. */
const mostBehind = 2;

const leavesAMark: readonly What[] = ['overcut', 'wrong-index', 'wrong-angle'];

/**
 * The stone as it really is at a visit, where it is otherwise than the script's pictures: something went wrong on
 * it, a machine told it, a facet was left out, its plan was changed, or the work goes on out of turn. It is the server's to tell; without it the pictures show
 * the plan.
 */
export function useAsCut(
  script: BenchScript,
  state: BenchState,
  log: StoneLog,
  at: number | undefined,
): AsCut | undefined {
  const visit = at === undefined ? undefined : script.visits[at];
  const otherwise =
    at !== undefined &&
    (isOutOfTurn(script, state, at) ||
      state.skipped.length > 0 ||
      ((script.layer as BenchScript['layer'] | undefined) ?? []).length > 0 ||
      log.state.surveys.length > 0 ||
      log.state.happenings.some((h) => leavesAMark.includes(h.what)));
  const next = visit ? script.facets[visit.facet]!.id : '';
  const found = useQuery({
    ...asCutQuery(script.stoneId, script.workId, next, heardOf(log)),
    enabled: otherwise,
  });
  const behind = log.events.length - (found.data?.heard ?? 0);
  return otherwise && behind <= mostBehind ? found.data : undefined;
}
