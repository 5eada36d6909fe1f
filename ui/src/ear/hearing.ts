/**
 * What a cutter hears: the grinding over the hum of the motor. A sound comes as its power in bands of a third of an octave; what
 * is told is how loud the bands are in which this stone and lap speak.
 */

/** The middle of each band in Hz: from above the motor's hum to the end of what a tablet's microphone hears. */
export const bands: readonly number[] = Array.from({ length: 19 }, (_, i) => 200 * 2 ** (i / 3));

/** A sound of a moment: the power in each band, in dB. */
export type Moment = readonly number[];

/** The quietest that counts, in dB: below it a microphone hears itself. */
const floor = -110;

/** Sums the bins of a spectrum, in dB and from 0 Hz on in equal steps, into the bands. */
export function momentOf(bins: ArrayLike<number>, hzPerBin: number): number[] {
  return bands.map((middle) => {
    const from = Math.max(1, Math.ceil(middle / 2 ** (1 / 6) / hzPerBin));
    const to = Math.min(bins.length - 1, Math.floor((middle * 2 ** (1 / 6)) / hzPerBin));
    let power = 0;
    for (let i = from; i <= Math.max(from, to); i++) power += 10 ** ((bins[i] ?? floor) / 10);
    return Math.max(floor, 10 * Math.log10(power));
  });
}

/** What was learned of a stone on a lap: how much each band tells, and how loud idle running and cutting are in them. */
export interface Learned {
  /** The share of each band, 0 for one that tells nothing; together 1. */
  weights: number[];
  /** In dB. */
  idle: number;
  cutting: number;
}

/** By how many dB cutting must be louder than idle running to be told from it. */
export const leastGain = 3;

/**
 * Learns from some seconds of idle running and of cutting. Bands count by how far the two lie apart, held against how much each
 * scatters; those that tell less than half as much as the best are left out. Undefined where cutting is not told from idle.
 */
export function learn(idle: readonly Moment[], cutting: readonly Moment[]): Learned | undefined {
  if (idle.length === 0 || cutting.length === 0) return undefined;
  const apart = bands.map((_, band) => {
    const a = spreadOf(idle.map((m) => m[band]!));
    const b = spreadOf(cutting.map((m) => m[band]!));
    const gain = b.mean - a.mean;
    // A decibel of scatter is there at least: one lucky second must not decide.
    return gain >= leastGain ? gain / Math.hypot(a.sd, b.sd, 1) : 0;
  });
  const best = Math.max(...apart);
  if (best === 0) return undefined;
  const kept = apart.map((v) => (v >= best / 2 ? v : 0));
  const all = kept.reduce((sum, v) => sum + v, 0);
  const weights = kept.map((v) => v / all);
  const mean = (moments: readonly Moment[]) =>
    spreadOf(moments.map((m) => loudness(m, weights))).mean;
  return { weights, idle: mean(idle), cutting: mean(cutting) };
}

function spreadOf(values: readonly number[]): { mean: number; sd: number } {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  const square = values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length;
  return { mean, sd: Math.sqrt(square) };
}

/** How loud a moment is in the bands that count, in dB. */
const loudness = (moment: Moment, weights: readonly number[]): number =>
  weights.reduce((sum, w, i) => sum + w * moment[i]!, 0);

/** How loud a moment is between idle running, 0, and cutting, 1. */
export const levelOf = (moment: Moment, learned: Learned): number =>
  (loudness(moment, learned.weights) - learned.idle) / (learned.cutting - learned.idle);

/** The lowest and highest frequency in Hz of the bands that count. */
export function bandOf({ weights }: Learned): [number, number] {
  const counting = bands.filter((_, i) => weights[i]! > 0);
  return [counting[0]! / 2 ** (1 / 6), counting.at(-1)! * 2 ** (1 / 6)];
}

/** From which level on it grinds, and below which it no longer does. */
const begins = 0.5;
const ends = 0.3;

/** How long it must grind to be a cut, and be quiet to be over, in ms. */
const cutFor = 600;
const quietFor = 400;

/** Listens for the end of a cut. It is told of a level at a time, and knows what it has come to. */
export class Listener {
  grinding = false;
  private since: number | undefined;
  private quiet: number | undefined;

  /** Takes a level at a time in ms, and returns whether a cut has just stopped. */
  hear(level: number, at: number): boolean {
    if (level >= begins) {
      this.quiet = undefined;
      this.since ??= at;
      if (at - this.since >= cutFor) this.grinding = true;
      return false;
    }
    if (level > ends) return false;
    // A stone that skips off the lap for a moment is not done.
    this.quiet ??= at;
    if (at - this.quiet < quietFor) return false;
    const stopped = this.grinding;
    this.grinding = false;
    this.since = undefined;
    return stopped;
  }
}

/** How many parts a turn has where it is asked in which of them the stone hits. */
export const partsOfTurn = 32;

/** Where in a turn the stone hits the lap: how loud each part was when it last came by, from 0 to 1. */
export class Turn {
  readonly parts: number[] = Array<number>(partsOfTurn).fill(0);

  /** Takes a level at a place of the turn, from 0 to 1. What is heard there again counts half, what was before the other half. */
  hear(level: number, place: number): void {
    const part = Math.floor((((place % 1) + 1) % 1) * partsOfTurn);
    this.parts[part] = (this.parts[part]! + Math.min(1, Math.max(0, level))) / 2;
  }
}
