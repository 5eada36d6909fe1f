import type { BenchScript } from '../../../api/client';
import { visitKey, type LogState } from '../../../log/fold';
import { foretell, type DialReading, type Foretold } from '../../../log/heights';
import { visitOf } from '../../../log/standing';
import { spareAt } from '../girdle';

type Facet = BenchScript['facets'][number];

/** A reading of this stone's log, with the visit that it was taken at. */
export interface Taken extends DialReading {
  place: number;
  /** What the dial showed. */
  reads: number;
  /** The event, by which it is taken back. */
  event: string;
}

/** 1 where the dial's reading rises as the stone is lifted, −1 where it falls. */
const senseOf = (facet: Facet): number => (facet.division?.rising ? -1 : 1);

/**
 * The readings that still count for a setup: those since the stone was turned over to it, was glued, or was found
 * to lean. They rise as the stone is lifted, whichever way this machine's dial counts. A lap that was changed for
 * another is another lap.
 */
export function takenIn(script: BenchScript, log: LogState, setup: string): Taken[] {
  const places = new Map(script.visits.map((_, i) => [visitKey(visitOf(script, i)), i]));
  const glued = Math.max(
    0,
    ...log.turns.filter((t) => t.setup === setup).map((t) => t.n),
    ...log.dops.filter((d) => d.setup === setup).map((d) => d.n),
    ...log.happenings.filter((h) => h.what === 'bond-failed').map((h) => h.n),
    log.checks.get(`${setup}/leaning`)?.n ?? 0,
  );
  return log.readings.flatMap((r) => {
    const place = places.get(visitKey(r.at));
    if (r.at.setup !== setup || r.n < glued || place === undefined) return [];
    const facet = script.facets[script.visits[place]!.facet]!;
    const { angle } = facet;
    const distance = distanceAt(script, place);
    const lap = lapAt(log, r.at.pass, r.n);
    const { id } = r.events[0]!;
    return [{ angle, distance, lap, mm: senseOf(facet) * r.mm, place, reads: r.mm, event: id }];
  });
}

/** The lap that did the work of a pass at a place of the log: another one since it was changed. */
function lapAt(log: LogState, pass: string, n: number): string {
  const changed = log.happenings.filter(
    (h) => h.what === 'lap-changed' && h.at?.pass === pass && h.n < n,
  );
  return `${pass} ${changed.length}`;
}

/** How far from the reference point a visit leaves its facet: farther out where the girdle is left thicker at first. */
function distanceAt(script: BenchScript, place: number): number {
  const { facet } = script.visits[place]!;
  const { distance, angle } = script.facets[facet]!;
  return distance + spareAt(script, place) * Math.cos((angle * Math.PI) / 180);
}

/** What the dial will read when a visit is finished, as this machine's dial counts. */
export function foretoldAt(
  script: BenchScript,
  log: LogState,
  place: number,
): Foretold | undefined {
  const visit = script.visits[place]!;
  const facet = script.facets[visit.facet]!;
  if (!facet.division || visit.adapter) return undefined;
  const told = foretell(takenIn(script, log, visit.setup), {
    angle: facet.angle,
    distance: distanceAt(script, place),
    lap: lapAt(log, visit.pass, Infinity),
  });
  return told && { mm: senseOf(facet) * told.mm, sd: told.sd };
}

/** How far above its finish a facet stands, in mm, where the dial reads so. */
export const aboveFinish = (facet: Facet, reads: number, told: Foretold): number =>
  senseOf(facet) * (reads - told.mm);

/** Whether a facet is one of the two whose readings tell most, and its tier was not read yet. */
export function shouldRead(script: BenchScript, log: LogState, place: number): boolean {
  const visit = script.visits[place]!;
  // A script that an older build has kept knows none.
  const pair = (script.readWell as number[] | undefined) ?? [];
  const { tier } = script.facets[visit.facet]!;
  const wanted = pair.some((i) => script.facets[i]!.tier === tier);
  const own = takenIn(script, log, visit.setup);
  const read = own.some((r) => script.facets[script.visits[r.place]!.facet]!.tier === tier);
  return wanted && !read && !visit.adapter;
}
