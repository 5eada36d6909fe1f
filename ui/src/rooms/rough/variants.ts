import type { Variant } from '../../api/rough';

/** The angle of its pavilion as it is written: what moving leaves of a hundredth is none. */
export const pavilionOf = (v: Variant): number => Math.round(100 * v.pavilion) / 100;

/** What a variant is told from others by. */
export const keyOf = (v: Variant): string => `${pavilionOf(v)} ${v.crown} ${v.without.join()}`;

/** The variants that are best in one thing. */
export interface Best {
  widest: Variant | undefined;
  heaviest: Variant | undefined;
  brightest: Variant | undefined;
}

export function bestOf(all: readonly Variant[]): Best {
  const most = (figure: (v: Variant) => number) =>
    all.reduce<Variant | undefined>(
      (best, v) => (best && figure(best) >= figure(v) ? best : v),
      undefined,
    );
  return {
    widest: most((v) => v.width),
    heaviest: most((v) => v.carat),
    brightest: most((v) => v.return),
  };
}

/** By how much a figure differs from another, with its sign; '' where it does not as it is written. */
export function changeIn(now: number, then: number, write: (v: number) => string): string {
  const [a, b] = [write(now), write(then)];
  if (a === b) return '';
  return `(${now > then ? '+' : '−'}${write(Math.abs(now - then))})`;
}
