import { describe, expect, it } from 'vitest';
import {
  bandOf,
  bands,
  learn,
  leastGain,
  levelOf,
  Listener,
  momentOf,
  partsOfTurn,
  Turn,
} from './hearing';

/** Chance that is the same each time. */
function chance(seed: number) {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 2 ** 32;
    return state / 2 ** 32;
  };
}

/** A motor's hum with some scatter, and over it, where it grinds, noise about a frequency. */
function moments(n: number, grindsAt: number | undefined, seed: number): number[][] {
  const next = chance(seed);
  return Array.from({ length: n }, () =>
    bands.map((hz) => {
      const hum = -40 - 10 * Math.log2(hz / 200) + 4 * next();
      const grit = grindsAt ? -55 - 20 * Math.abs(Math.log2(hz / grindsAt)) + 3 * next() : -120;
      return 10 * Math.log10(10 ** (hum / 10) + 10 ** (grit / 10));
    }),
  );
}

describe('the band in which a stone speaks', () => {
  it.each([1600, 3200, 6400])('is found about %d Hz, and tells cutting from idle', (hz) => {
    const learned = learn(moments(60, undefined, 1), moments(60, hz, 2))!;
    const [from, to] = bandOf(learned);
    expect(from).toBeLessThan(hz);
    expect(to).toBeGreaterThan(hz);
    expect(learned.weights.reduce((sum, w) => sum + w, 0)).toBeCloseTo(1);
    for (const m of moments(40, undefined, 3)) expect(levelOf(m, learned)).toBeLessThan(0.3);
    for (const m of moments(40, hz, 4)) expect(levelOf(m, learned)).toBeGreaterThan(0.5);
  });

  it('is not made up where cutting sounds like idle running', () => {
    expect(learn(moments(60, undefined, 1), moments(60, undefined, 2))).toBeUndefined();
    expect(learn([], moments(3, 1600, 1))).toBeUndefined();
  });
});

it('sums the bins of a spectrum into thirds of an octave', () => {
  const hzPerBin = 20;
  const tone = Array.from({ length: 1024 }, (_, i) => (i === 160 ? -30 : -140));
  const moment = momentOf(tone, hzPerBin);
  const loudest = moment.indexOf(Math.max(...moment));
  expect(bands[loudest]).toBeCloseTo(3200, 0);
  expect(moment[loudest]).toBeCloseTo(-30, 1);
});

describe('the end of a cut', () => {
  /** Hears levels every 50 ms, and returns when cuts stopped. */
  const stops = (levels: readonly number[]): number[] => {
    const ear = new Listener();
    return levels.flatMap((level, i) => (ear.hear(level, 50 * i) ? [50 * i] : []));
  };
  const many = (level: number, ms: number) => Array<number>(ms / 50).fill(level);

  it('is told once, when it has been quiet for a while', () => {
    expect(stops([...many(0, 500), ...many(1, 2000), ...many(0.1, 2000)])).toEqual([2900]);
  });

  it('is not told of a touch, of a skip, or of what grows quieter', () => {
    expect(stops([...many(1, 300), ...many(0, 1000)])).toEqual([]);
    expect(stops([...many(1, 2000), ...many(0, 200), ...many(1, 1000)])).toEqual([]);
    expect(stops([...many(1, 2000), ...many(0.4, 3000)])).toEqual([]);
  });
});

it('tells where in a turn the stone hits', () => {
  const turn = new Turn();
  for (let round = 0; round < 6; round++)
    for (let i = 0; i < 100; i++) turn.hear(i >= 25 && i < 50 ? 1 : 0, round + i / 100);
  const loud = turn.parts.flatMap((level, i) => (level > 0.5 ? [i] : []));
  expect(loud).toEqual(Array.from({ length: 8 }, (_, i) => i + 8));
  expect(turn.parts).toHaveLength(partsOfTurn);
  expect(leastGain).toBeGreaterThan(0);
});
