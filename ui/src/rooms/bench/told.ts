import type { BenchScript } from '../../api/client';
import type { LogState } from '../../log/fold';
import type { BenchState } from '../../log/standing';
import { cheatOf } from '../../parts/work/visitWords';
import { angle, plain } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';
import { w } from '../../words/words';
import { budgetAt } from './girdle';
import { foretoldAt, shouldRead } from './heights/dial';
import { isOutOfTurn } from './order';

/**
 * What is said beside a facet: the dial's height, what is left of the girdle, that it is out of turn. Real tells that
 * the picture shows the stone as it was cut.
 */
export function toldAt(
  script: BenchScript,
  state: BenchState,
  log: LogState,
  at: number,
  real: boolean,
): string[] {
  const told = foretoldAt(script, log, at);
  const hundredths = (mm: number) => plain(Math.round(mm * 100) / 100);
  return [
    lineUpAt(script, at),
    told && t.foretold(hundredths(told.mm), hundredths(told.sd)),
    budgetAt(script, log, at),
    shouldRead(script, log, at) && t.readHere,
    isOutOfTurn(script, state, at) && (real ? t.outOfTurn : t.outOfTurnPlanned),
    isAdapted(script, at) && t.adapted,
  ].filter((text) => typeof text === 'string');
}

/** How a stone that came finished is lined up, where a side begins; a script that an older build has kept knows nothing. */
function lineUpAt(script: BenchScript, at: number): string | undefined {
  const { setup, move } = script.visits[at]!;
  const lines = script.lineUp as BenchScript['lineUp'] | undefined;
  return (move.first && lines?.[script.setups.findIndex((s) => s.id === setup)]) || undefined;
}

/** Whether a visit's tier was changed at the wheel; a script that an older build has kept knows nothing. */
function isAdapted(script: BenchScript, at: number): boolean {
  const { tier } = script.facets[script.visits[at]!.facet]!;
  return ((script.layer as BenchScript['layer'] | undefined) ?? []).some((c) => c.tier === tier);
}

/** The lap that does the work of a visit's pass since it was changed, '' where it was not. */
export function lapNow(script: BenchScript, log: LogState, at: number): string {
  const { pass } = script.visits[at]!;
  const changed = log.happenings.findLast((h) => h.what === 'lap-changed' && h.at?.pass === pass);
  return changed?.with ?? '';
}

/** What is dialled for a visit, to be said: all of it where a side begins, else what changes. */
export function spoken(script: BenchScript, at: number): string {
  const visit = script.visits[at]!;
  const facet = script.facets[visit.facet]!;
  const before = script.visits[at - 1];
  const last = before?.setup === visit.setup ? script.facets[before.facet] : undefined;
  return [
    last?.reading !== facet.reading && `${w.bench.angle} ${angle(facet.reading)}.`,
    `${w.bench.index} ${facet.dial.tooth}.`,
    cheatOf(facet.dial, script.cheater),
  ]
    .filter(Boolean)
    .join(' ');
}
