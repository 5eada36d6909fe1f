import type { BenchScript, LiveReading } from '../../../api/client';
import type { Dials } from '../../../log/events';
import type { Foretold } from '../../../log/heights';
import type { Quantity } from '../../../live/live';

type Facet = BenchScript['facets'][number];

/** By how much a dial may show otherwise and be at what was to be set: degrees, teeth. */
const within = { angle: 0.05, index: 0.05 };

/** How a dial stands to what is to be set: off by so much, more where it is over 0, or there; held once it stays there. */
export interface Compared {
  off: number;
  there: boolean;
  held: boolean;
}

/** The shorter way round the gear from one position to another, in teeth. */
function turnBetween(from: number, to: number, teeth: number): number {
  const way = (((to - from) % teeth) + teeth) % teeth;
  return way > teeth / 2 ? way - teeth : way;
}

/** How the protractor stands to a facet's setting. Where an angle is set by holes no dial shows it. */
export function compareAngle(reading: LiveReading, facet: Facet): Compared | undefined {
  if (facet.hole) return undefined;
  const off = reading.value - facet.reading;
  return { off, there: Math.abs(off) <= within.angle, held: reading.held };
}

/** How the gear stands to a facet's position, its cheat included. */
export function compareIndex(reading: LiveReading, facet: Facet, teeth: number): Compared {
  const asked = facet.dial.tooth + (facet.dial.cheat * teeth) / 360;
  const off = turnBetween(asked, reading.value, teeth);
  return { off, there: Math.abs(off) <= within.index, held: reading.held };
}

/** How the height stands to what was foretold for a facet; undefined where nothing was. */
export function compareHeight(reading: LiveReading, told: Foretold | undefined) {
  if (!told) return undefined;
  const off = reading.value - told.mm;
  return { off, there: Math.abs(off) <= Math.max(0.01, 2 * told.sd), held: reading.held };
}

/**
 * What is kept with Done: what the dials show while quill and gear stand where they should. A dial that is not there does not
 * count; without a protractor's a height counts once it is held.
 */
export function toKeep(
  readings: ReadonlyMap<Quantity, LiveReading>,
  facet: Facet,
  teeth: number,
): Dials | undefined {
  const angle = readings.get('angle');
  const index = readings.get('index');
  const height = readings.get('height');
  if (!angle && !index && !height) return undefined;
  const atAngle = angle ? (compareAngle(angle, facet)?.there ?? true) : (height?.held ?? true);
  const atIndex = !index || compareIndex(index, facet, teeth).there;
  if (!atAngle || !atIndex) return undefined;
  return {
    ...(angle && { angle: angle.value }),
    ...(index && { index: index.value }),
    ...(height && { height: height.value }),
  };
}
