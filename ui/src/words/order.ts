/** What is said of the order of a diagram's cuts, and of where they stop. */
export const orderWords = {
  open: 'Cutting order',
  mend: 'Mend the order',
  title: 'Cutting order',
  written: 'As written',
  better: 'Better',
  cuttable: 'It can be cut as written, and no order is better.',
  cuttableSoFar: 'It can be cut as written. No better order was found.',
  cuttableBetter:
    'It can be cut as written. Another order leaves less to the eye, or is closer to your habits.',
  cuttableTwice: 'It can be cut as written, but the stone would be turned over more than once.',
  uncuttable: 'It cannot be cut as written.',
  none: 'No order was found in which its stops can be cut. Mend the stops that are marked first.',
  free: 'by size or eye',
  moved: 'moved',
  stop: 'new stop',
  take: 'Take this order',
  after: (tier: string) => `The stone after ${tier}`,
  optional: 'Optional tiers',
  canGo: (tier: string) => `${tier} can be left off; the rest cuts as it is.`,
  mustStay: (tier: string, why: string) => `${tier} cannot just be left off. ${why}`,
  taken: 'The order was changed',
  variant: (name: string) => `${name}, another order`,
};

export const stopsWords = {
  open: 'Find the stops',
  anew: 'Rewrite stops',
  title: 'Where the cuts stop',
  guessed:
    'Found from the angles: a diagram is drawn so that facets meet. Choose the stone that is meant. Sizes that no angle tells are the usual ones; change them to yours.',
  derived: 'The same stone, every stop worded as plainly as it can be.',
  choice: (n: number) => `Stone ${n}`,
  none: 'Nothing to change: every stop is as plain as it can be.',
  take: 'Take these stops',
  taken: 'The stops were written',
};

/** How a search ended that did not look at everything; nothing for one that did. */
export const endedWords = {
  complete: '',
  budget:
    'There are more ways to try than Cressa tries. This is the best of those it tried; there may be a better one.',
  stopped:
    'The time was up before every way was tried. This is the best so far; there may be a better one.',
};
