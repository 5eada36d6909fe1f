import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';

type Facet = BenchScript['facets'][number];

/**
 * Up to three facets of a setup that are cut and tell most of how the stone sits: steep ones, far from each
 * other round the stone. The first is the steepest; two that stand opposite tell no lean, so that the third
 * stands across.
 */
export function linesUp(script: BenchScript, state: BenchState, setup: string): Facet[] {
  const cut = new Set(
    script.visits.flatMap((v, i) =>
      v.setup === setup && !v.adapter && state.visited[i]?.kind === 'done' ? [v.facet] : [],
    ),
  );
  const facets = [...cut].map((i) => script.facets[i]!).filter((f) => f.angle > 0);
  const first = facets.reduce<Facet | undefined>(
    (best, f) => (best && best.angle >= f.angle ? best : f),
    undefined,
  );
  if (!first) return [];
  const out = [first];
  for (const away of [0.25, 0.5]) {
    const rest = facets.filter((f) => !out.includes(f) && f.dial.tooth !== first.dial.tooth);
    const off = (f: Facet) => Math.abs(apart(f, first, script.gear) - away);
    const next = rest.reduce<Facet | undefined>(
      (best, f) => (best && off(best) <= off(f) ? best : f),
      undefined,
    );
    if (next) out.push(next);
  }
  return out;
}

/** How far two facets stand apart round the stone, as a share of the whole turn, up to a half. */
function apart(a: Facet, b: Facet, gear: number): number {
  const teeth = Math.abs(a.dial.tooth - b.dial.tooth) % gear;
  return Math.min(teeth, gear - teeth) / gear;
}
