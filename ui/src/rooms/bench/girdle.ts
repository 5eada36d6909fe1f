import type { BenchScript } from '../../api/client';
import type { LogState } from '../../log/fold';
import { plain } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';

type Facet = BenchScript['facets'][number];

/** How thick the girdle is to be at its thinnest, in mm; undefined where the stone has none. */
export const girdlePlanned = (script: BenchScript): number | undefined =>
  script.levels.girdle ? script.levels.girdle.min * script.mmPerUnit : undefined;

/** By how many mm a visit leaves the girdle thicker; a script that an older build has kept leaves nothing. */
export const spareAt = (script: BenchScript, place: number): number =>
  (script.visits[place]!.spare as number | undefined) ?? 0;

/**
 * What is left of the girdle until it is as planned, on the facet that takes it down: x on the dial is x/cos t
 * off the girdle.
 */
export function budgetText(facet: Facet, planned: number, thick: number): string {
  const left = Math.round((thick - planned) * 1000) / 1000;
  if (left < -0.005) return t.girdleThin;
  if (left <= 0.005) return t.girdleThere(plain(thick));
  const dial = left * Math.cos((facet.angle * Math.PI) / 180);
  const step = facet.division?.deeper;
  return t.girdleGo(
    plain(Math.round(left * 100) / 100),
    plain(Math.round(dial * 1000) / 1000),
    step ? plain(Math.round((dial / step) * 10) / 10) : '',
  );
}

/** Whether a visit is to the tier that comes down onto the girdle: the first of the last side. */
export function takesGirdle(script: BenchScript, place: number): boolean {
  const { id: last, up } = script.setups.at(-1)!;
  if (up === '') return false;
  const first = script.visits.find((v) => v.setup === last);
  const visit = script.visits[place]!;
  const tierOf = (v: BenchScript['visits'][number]) => script.facets[v.facet]!.tier;
  const slopes = script.facets[visit.facet]!.angle > 0;
  return visit.setup === last && visit.first && slopes && tierOf(first!) === tierOf(visit);
}

/**
 * The girdle's budget at a visit to the first tier of the last side, from the last time that it was measured
 * since the stone was turned over. Undefined where nothing was measured.
 */
export function budgetAt(script: BenchScript, log: LogState, place: number): string | undefined {
  const visit = script.visits[place]!;
  const planned = girdlePlanned(script);
  const turned = log.turns.findLast((t) => t.setup === visit.setup)?.n ?? 0;
  const last = log.measures.findLast((m) => m.what === 'girdle');
  if (!takesGirdle(script, place)) return undefined;
  if (planned === undefined || !last || last.n < turned) return undefined;
  return budgetText(script.facets[visit.facet]!, planned + spareAt(script, place), last.mm);
}
