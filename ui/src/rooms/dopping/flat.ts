import type { MountedDop } from '../../api/gluing';

/** Geometry of what is seen from the side: points as x to the side and y up, in mm. */
export type Point = readonly [x: number, y: number];

/** Points that are listed as x and y in turn. */
export function pointsOf(list: readonly number[]): Point[] {
  const out: Point[] = [];
  for (let i = 0; i + 1 < list.length; i += 2) out.push([list[i]!, list[i + 1]!]);
  return out;
}

/**
 * What brings a stone on its dop, seen with z out of the dop upwards, to where it stands when a facet
 * at an angle in degrees meets the lap: the lap lies level below, y down.
 */
export function ontoLap(angle: number): (p: Point) => Point {
  const sin = Math.sin((angle * Math.PI) / 180);
  const cos = Math.cos((angle * Math.PI) / 180);
  return ([x, y]) => [x * cos - y * sin, x * sin + y * cos];
}

/**
 * A dop from the side, from its rim to so many mm behind it. A groove that is seen slantwise, at an
 * angle in degrees to the line of sight, looks shallower.
 */
export function dopOutline(
  dop: Pick<MountedDop, 'shape' | 'diameter' | 'near'>,
  length: number,
  slant = 0,
): Point[] {
  const r = dop.diameter / 2;
  const rim = -dop.near;
  const depth = { flat: 0, cone: r, vee: r * Math.abs(Math.cos((slant * Math.PI) / 180)) }[
    dop.shape
  ];
  const face: Point[] = depth > 1e-9 ? [[0, rim - depth]] : [];
  return [[-r, rim], ...face, [r, rim], [r, rim - length], [-r, rim - length]];
}

/** The box around points. */
export function boxOf(points: readonly Point[]): {
  x: number;
  y: number;
  width: number;
  height: number;
} {
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

/** Points as SVG writes them. */
export const svgPoints = (points: readonly Point[]): string =>
  points.map(([x, y]) => `${x.toFixed(3)},${y.toFixed(3)}`).join(' ');
