/**
 * What the height dial will read, from readings of facets that are finished. The bench must know it
 * without a network; the rule is that of core/heights, and heights.fixtures.json holds the two together.
 */

/** A facet as the dial sees it, on the lap that it is cut on: each lap has a zero of its own. */
export interface Cut {
  /** Degrees as dialled. */
  angle: number;
  /** Of its plane from the stone's reference point, in mm. */
  distance: number;
  lap: string;
}

/** What the dial read in mm, rising as the pivot is lifted. */
export interface DialReading extends Cut {
  mm: number;
}

/** What the dial will read in mm, and the standard deviation of that. */
export interface Foretold {
  mm: number;
  sd: number;
}

/** The standard deviation of a reading in mm: a hand reads a hundredth. */
export const readingSD = 0.01;

/** The least spread of cosines, as a sum of squares, that tells the length from a zero. */
const apart = 1e-15;

/** How many standard deviations off a reading no longer fits. */
const strange = 3;

const cos = ({ angle }: Cut): number => (angle === 90 ? 0 : Math.cos((angle * Math.PI) / 180));

const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length;

/** What the dial reads when a facet is finished; undefined where the readings do not tell. */
export function foretell(readings: readonly DialReading[], asked: Cut): Foretold | undefined {
  const laps = new Map(
    [...new Set(readings.map((r) => r.lap))].map((lap) => {
      const own = readings.filter((r) => r.lap === lap);
      const x = mean(own.map(cos));
      return [lap, { n: own.length, x, y: mean(own.map((r) => r.mm - r.distance)) }];
    }),
  );
  let spread = 0;
  let both = 0;
  for (const r of readings) {
    const { x, y } = laps.get(r.lap)!;
    spread += (cos(r) - x) ** 2;
    both += (cos(r) - x) * (r.mm - r.distance - y);
  }
  const on = laps.get(asked.lap);
  if (!on) return undefined;
  const off = cos(asked) - on.x;
  if (spread > apart)
    return {
      mm: asked.distance + on.y + (both / spread) * off,
      sd: readingSD * Math.sqrt(1 / on.n + off ** 2 / spread),
    };
  // One angle alone was read: that is all that is known.
  if (Math.abs(off) > Math.sqrt(apart)) return undefined;
  return { mm: asked.distance + on.y, sd: readingSD / Math.sqrt(on.n) };
}

/** Whether a reading is off from what was foretold by more than both can be. */
export const isStrange = (mm: number, foretold: Foretold): boolean =>
  Math.abs(mm - foretold.mm) > strange * Math.hypot(foretold.sd, readingSD);
