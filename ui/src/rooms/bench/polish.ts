import type { BenchScript, Mesh } from '../../api/client';
import { blend, cornersOf, cross, dot, normalOf, unit, type Vec } from '../../parts/stone/geometry';

type Facet = BenchScript['facets'][number];

/**
 * Where a facet is bright: −1, 0 or 1 from left to right and from below to above, as an eye sees it that looks
 * straight at the facet with the dop below.
 */
export interface Zone {
  right: number;
  up: number;
}

/**
 * The outline of a facet on the finished stone as an eye sees it that looks straight at it, with the dop
 * below: x to the right, y upwards, in design units. Rising index is to the left then. Empty where the facet is
 * level, or gone.
 */
export function outlineOf(mesh: Mesh, facet: Facet, out: Vec): [number, number][] {
  const corners = cornersOf(mesh, facet.no);
  if (corners.length === 0 || facet.angle === 0) return [];
  const normal = normalOf(corners);
  const up = unit(blend(out, 1, normal, -dot(normal, out)));
  const right = cross(up, normal);
  return corners.map((c) => [dot(right, c), dot(up, c)]);
}

/** What to do where a facet is bright in a zone first. */
export interface Advice {
  /** The tooth towards which a hair of cheater goes, and its sign; undefined for none. */
  cheat: { tooth: number; sign: '+' | '−' } | undefined;
  /** Whether the angle goes up or down by a hair. */
  angle: 'steeper' | 'flatter' | undefined;
  /** Which way the height dial's reading goes for that, undefined without a dial. */
  dial: 'up' | 'down' | undefined;
}

/** The teeth next to a facet's own: to the left of its picture, where the index rises, and to the right. */
export function neighbours(facet: Facet, gear: number): { left: number; right: number } {
  const tooth = (i: number) => ((i - 1 + gear) % gear) + 1;
  return { left: tooth(facet.dial.tooth + 1), right: tooth(facet.dial.tooth - 1) };
}

/**
 * The side that comes in first stands too low on the lap: the stone is turned away from it. Where that is the
 * end at the dop the facet is set too steep, and a flatter facet is a pivot that stands higher.
 */
export function adviceFor(facet: Facet, zone: Zone, gear: number): Advice {
  const { left, right } = neighbours(facet, gear);
  const cheat =
    zone.right < 0
      ? { tooth: right, sign: '−' as const }
      : zone.right > 0
        ? { tooth: left, sign: '+' as const }
        : undefined;
  if (zone.up === 0) return { cheat, angle: undefined, dial: undefined };
  const flatter = zone.up < 0;
  const rises = facet.division && flatter !== facet.division.rising;
  return {
    cheat,
    angle: flatter ? 'flatter' : 'steeper',
    dial: facet.division ? (rises ? 'up' : 'down') : undefined,
  };
}
