import { angle, carats, mm, plain } from './numbers';

/** Measuring a piece on the faceting machine, with calipers, and by outlines of photos. */
export const measureWords = {
  open: 'Measure it',
  title: 'Measure the piece',
  back: 'To the piece',
  take: 'Take it as the solid',
  taken: 'The piece has the measured solid',
  moved: 'Flaws, saw cuts and the axis stay where they were placed: look at them again.',
  lead: 'Put the piece on a dop. Lower it onto the standing lap at an angle and an index until it touches, and read the height dial: each touch is a plane that the piece does not cross.',
  notYet: (n: number) =>
    n === 0
      ? 'Nothing is measured yet.'
      : 'It is not bounded all round yet. Follow the touches that are proposed.',
  drawn: 'The piece as far as it is measured',
  figures: {
    volume: 'Volume',
    weight: 'It would weigh',
    scales: 'The scales say',
    extra: 'Too much by',
    most: 'May still stand out',
    mm3: (v: number) => `${plain(Math.round(10 * v) / 10)} mm³`,
  },
  dial: {
    head: 'What the dial reads',
    lead: 'Two touches of something known tell how the dial counts: the rim of the bare dop’s end, or a facet whose distance from the middle of the dop’s face you know.',
    gear: 'Gear',
    reading: 'A figure may be off by',
    dop: 'Bare dop, across',
    height: (deg: number) => `Dial at ${angle(deg)}°`,
    angle: (n: number) => `Angle of touch ${n}`,
    distance: (n: number) => `Distance of touch ${n}`,
    ways: { bare: 'the bare dop’s end', facet: 'a known facet' },
    what: 'Touched was',
  },
  next: {
    head: 'Touch it here next',
    set: (deg: number, index: number) => `${angle(deg)}° at index ${plain(index)}`,
    ahead: 'Then at',
    short: (deg: number, index: number) => `${angle(deg)}°/${plain(index)}`,
    other: 'Another place',
    angle: 'Angle',
    index: 'Index',
    height: 'Dial',
    add: 'Add the touch',
    enough: (most: string) =>
      `Nowhere may more than ${most} stand out. That is close enough for most stones.`,
  },
  touches: 'Touches',
  touch: (deg: number, index: number, height: number) =>
    `${angle(deg)}° at ${plain(index)}: ${mm(height)}`,
  took: (v: number) => (v > 0.05 ? `took ${plain(Math.round(10 * v) / 10)} mm³` : ''),
  remove: (what: string) => `Take out ${what}`,
  widths: {
    head: 'Calipers',
    lead: 'Across the piece, one jaw where it was touched: the other jaw gives a second plane.',
    alone:
      'Without the machine: across three directions, such as two square to each other at 90° and one at 0°. More of them need touches.',
    angle: 'At angle',
    index: 'At index',
    from: 'From the touch',
    reading: 'Calipers read',
    add: 'Add the width',
    one: (deg: number, index: number, v: number) =>
      `across ${angle(deg)}° at ${plain(index)}: ${mm(v)}`,
  },
  outlines: {
    head: 'Outlines of photos',
    lead: 'Photos square to the quill, taken from as far as can be, at indexes that you know. The picture stays in this browser.',
    add: 'From a photo',
    one: (index: number, corners: number) => `outline at index ${plain(index)}, ${corners} corners`,
    title: 'Outline of a photo',
    file: 'Choose a photo',
    index: 'Index that comes to the lap at the right',
    off: 'Corners may be off by',
    length: 'Known length',
    steps: {
      foot: 'Click the middle of the dop’s face.',
      axis: 'Click another point of the quill’s axis, above it.',
      from: 'Click one end of a length that you know, such as the dop’s width.',
      to: 'Click its other end.',
      corners: 'Click the outermost corners, all round. Straight lines join them.',
    },
    undo: 'Take the last point back',
    keep: 'Keep the outline',
    photo: 'The photo: click what is asked for',
  },
  extra: (v: number) => carats(v),
};
