import type { LookedAt } from '../api/rough';

/** What is said while a piece is looked at. */
export const lookWords = {
  start: 'Look it over',
  again: 'Look again',
  title: 'Look the piece over',
  of: (no: number, all: number) => `${no} of ${all}`,
  nothing: 'Nothing there',
  something: 'I see something',
  skip: 'Skip',
  back: 'Back',
  done: 'Done',
  keys: '1 nothing there, 2 I see something, 0 skip',
  note: 'What you see',
  mark: 'Mark it as a flaw',
  next: 'Next look',
  none: 'Nobody has looked it over yet.',
  what: { nothing: 'nothing', something: 'something', skipped: 'skipped' } satisfies Record<
    LookedAt['what'],
    string
  >,
  ways: {
    white: {
      name: 'Dry, on white paper',
      look: 'Roll it on white paper in daylight. Is the colour even, and where is it deepest? The deepest place belongs at the culet.',
    },
    backlit: {
      name: 'Against the light',
      look: 'Hold it between lamp and eye. A veil throws a shadow; follow it while you turn the piece and see where it ends.',
    },
    reflected: {
      name: 'By reflected light',
      look: 'Let a lamp shine in from beside you. A flat crack flashes at one angle and is gone at the next.',
    },
    wet: {
      name: 'Wet, lit from the side',
      look: 'Wet it or lay it in water and light it from the side: the skin vanishes, what lies inside stays. Keep other liquids away from flame and skin, and air the room.',
    },
    polarised: {
      name: 'Between crossed polarisers',
      look: 'Turn it between two crossed filters. Bright crosses and rainbows beside an inclusion are strain; such a piece may crack on the wheel.',
    },
    along: {
      name: 'Along the future table',
      look: 'Look through it the way one will look through the table. This is the colour that the stone will show.',
    },
    across: {
      name: 'Across it',
      look: 'Now look from the side. Where the colour differs, choose which one the table shall show; zones show as stripes.',
    },
  } satisfies Record<LookedAt['way'], { name: string; look: string }>,
};
