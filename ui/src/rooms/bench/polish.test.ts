import { describe, expect, test } from 'vitest';
import { cross, dot, unit, type Vec } from '../../parts/stone/geometry';
import { benchFacetOf } from '../../testing/records';
import { adviceFor } from './polish';

/**
 * The frame of the machine by the book: a facet at angle t and index i points to (sin t·sin f, sin t·cos f,
 * cos t), f = 360·i/gear, with z out of the dop.
 */
function facing(angle: number, index: number): Vec {
  const [t, f] = [(angle * Math.PI) / 180, (2 * Math.PI * index) / 96];
  return [Math.sin(t) * Math.sin(f), Math.sin(t) * Math.cos(f), Math.cos(t)];
}

describe('what comes in first is what the lap reaches first', () => {
  const facet = benchFacetOf({
    angle: 42,
    dial: { tooth: 12, cheat: 0, cheatTurns: 0, azimuth: 0 },
  });
  const normal = facing(42, 12);
  const out: Vec = [0, 0, 1];
  const up = unit([0, 1, 2].map((i) => out[i]! - dot(out, normal) * normal[i]!) as unknown as Vec);
  const right = cross(up, normal);

  test.each([
    ['a cheat towards rising index', 42, 12.2],
    ['a cheat towards falling index', 42, 11.8],
    ['a steeper angle', 42.3, 12],
    ['a flatter angle', 41.7, 12],
  ])('%s is taken back', (_, angle, index) => {
    // The side that the lap, set so, reaches first on a facet that stands at 42 and 12.
    const lap = facing(angle, index);
    const zone = {
      right: Math.sign(Math.round(1e4 * dot(right, lap))),
      up: Math.sign(Math.round(1e4 * dot(up, lap))),
    };
    const advice = adviceFor(facet, zone, 96);
    expect(advice.cheat?.sign).toBe(index > 12 ? '−' : index < 12 ? '+' : undefined);
    expect(advice.angle).toBe(angle > 42 ? 'flatter' : angle < 42 ? 'steeper' : undefined);
  });

  test('a flatter facet is a pivot that stands higher, as this dial counts', () => {
    const dialled = (rising: boolean) =>
      adviceFor(
        benchFacetOf({ division: { rising, deeper: 0.01, girdle: 0.01 } }),
        { right: 0, up: -1 },
        96,
      ).dial;
    expect(dialled(false)).toBe('up');
    expect(dialled(true)).toBe('down');
  });
});
