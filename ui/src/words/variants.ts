import { carats, mm, percent, plain } from './numbers';

/** Changes of a diagram that suit a piece, and two stones out of one piece. */
export const variantWords = {
  open: 'Change it to fit',
  title: (name: string) => `${name}, changed to fit`,
  back: 'To the piece',
  start: 'Try changes',
  again: 'Try again',
  stop: 'Stop',
  trying: (done: number, total: number) => `${done} of ${total} changes tried`,
  lead: 'The pavilion down to the least margin over the critical angle, the crown lower and steeper, and the diagram without each tier that can be left off: each as large as it fits about here.',
  none: 'Nothing was tried yet.',
  gone: 'The candidate is gone. Go back to the piece and look for stones.',
  angles: 'Pavilion and crown',
  pavilion: (deg: number) => `Pavilion ${plain(Math.round(100 * deg) / 100)}°`,
  crown: (factor: number) =>
    factor === 1 ? 'Crown as drawn' : `Crown ×${plain(Math.round(100 * factor) / 100)}`,
  without: 'With tiers left off',
  leaving: (tiers: string[]) => `without ${tiers.join(', ')}`,
  drawn: 'as drawn',
  marks: { widest: 'widest', heaviest: 'heaviest', brightest: 'brightest' },
  cell: (width: number, carat: number) => `${mm(width)} · ${carats(carat)}`,
  light: (v: number) => `light ${percent(v)}`,
  figures: {
    width: 'Width',
    height: 'Height',
    weight: 'Weight',
    light: 'Light, in its colour',
    window: 'Window',
    margin: 'Over the critical angle',
    facets: 'Facets',
    hours: 'Hours',
    flaws: 'Darkened by flaws',
    limits: 'Held by',
  },
  keep: 'Keep it as a candidate',
  kept: (name: string) => `${name} is in the library. Its best place is looked for.`,
  keepHelp: 'It becomes a variant of the diagram, and is looked for in every position.',
};

export const splitWords = {
  open: 'Two stones',
  title: 'Two stones of one piece',
  back: 'To the piece',
  lead: 'Saw cuts through the flaws and square to the piece and to its best stone are tried, with the heaviest stone on each side.',
  kerf: 'Blade takes',
  allowance: 'Left all round',
  start: 'Look for saw cuts',
  again: 'Look again',
  trying: (done: number, total: number) => `${done} of ${total} steps tried`,
  none: 'Nothing was looked for yet.',
  nothing: 'No saw cut leaves room for two stones.',
  way: (no: number) => `Saw cut ${no}`,
  drawn: (no: number) => `Saw cut ${no} in the piece, with both stones`,
  side: ['Stays', 'Falls off'],
  together: 'Together',
  one: 'One stone instead',
  kerfCosts: 'The blade takes',
  value: 'Both are worth',
  oneValue: 'One is worth',
  against: (both: number, one: number, sum: (v: number) => string) =>
    both === one
      ? 'Worth the same'
      : both > one
        ? `Worth more, by ${sum(both - one)}`
        : `Worth less, by ${sum(one - both)}`,
  tooLight: 'too light for a price',
  heavier: (ct: string) => `Two weigh more, by ${ct}`,
  lighter: (ct: string) => `One weighs more, by ${ct}`,
  noPrice: 'Large stones often bring more by the carat: note prices under Side by side.',
  take: (no: number) => `Take saw cut ${no}`,
  taken: (number: number) => `The saw cut is in piece ${number}`,
};
