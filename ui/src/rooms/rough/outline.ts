/** An outline that is clicked on a photo, in pixels of the picture, x right and y down. */
export interface Clicked {
  points: readonly (readonly [number, number])[];
}

/** What is clicked first, in this order; the corners follow. */
export const firstClicks = ['foot', 'axis', 'from', 'to'] as const;

/** What the next click stands for. */
export const nextClick = (n: number): (typeof firstClicks)[number] | 'corners' =>
  firstClicks[n] ?? 'corners';

/**
 * The corners in mm: x across the quill's axis, to the right of it, y along it up from the middle of
 * the dop's face. The length from the third to the fourth point is so many mm. Undefined until there
 * are corners, or where axis or length are a single point.
 */
export function cornersOf({ points }: Clicked, length: number): number[] | undefined {
  const [foot, axis, from, to, ...corners] = points;
  if (!foot || !axis || !from || !to || corners.length < 3) return undefined;
  const up = [axis[0] - foot[0], axis[1] - foot[1]] as const;
  const tall = Math.hypot(...up);
  const pixels = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (tall === 0 || pixels === 0 || !(length > 0)) return undefined;
  const scale = length / pixels;
  const [ux, uy] = [up[0] / tall, up[1] / tall];
  return corners.flatMap(([x, y]) => {
    const [dx, dy] = [x - foot[0], y - foot[1]];
    // Right of the axis as seen: up turned clockwise, y running down.
    return [scale * (dx * -uy + dy * ux), scale * (dx * ux + dy * uy)];
  });
}
