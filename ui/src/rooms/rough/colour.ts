/** Absorption in 1/mm as a colour on the screen: what is left of white light after some way. */

/** How far the light goes, in mm: about through a ring stone and back. */
export const way = 10;

/** What is left of a channel that is told as nothing: less than a screen shows. */
const least = 0.002;

const linear = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
const shown = (v: number) => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);

/** The colour of an absorption, as #rrggbb (sRGB, IEC 61966-2-1). */
export const colourOf = (absorption: readonly number[]): string =>
  '#' +
  absorption
    .map((a) =>
      Math.round(255 * shown(Math.exp(-a * way)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('');

/** The absorption that leaves a colour, #rrggbb, of white light. */
export const absorptionOf = (colour: string): number[] =>
  [1, 3, 5].map((i) => {
    const left = linear(parseInt(colour.slice(i, i + 2), 16) / 255);
    return Math.round((-1e5 * Math.log(Math.max(least, left))) / way) / 1e5 || 0;
  });
