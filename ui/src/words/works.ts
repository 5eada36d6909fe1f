/** What is said of the work on a stone: its first cut and what came after. */
export const workWords = {
  title: 'What was done to this stone',
  tasks: { 'first-cut': 'First cut', recut: 'Recut', repair: 'Repair' } as Record<string, string>,
  finished: (day: string) => `finished ${day}`,
  open: 'not finished',
  earlier: 'This is earlier work on the stone. It stays as it is.',
  toPresent: 'Go to the present work',
  cameBack: 'It came back',
  recut: 'Recut it',
  recutTitle: (stone: string) => `Recut ${stone}`,
  recutFrom: 'Recut to which diagram?',
  keepRecut: 'Plan this recut',
  why: 'What for',
  whyExample: 'such as: the table is worn',
  before: 'Before the recut',
  way: (way: string) => `It is recut so: ${way}.`,
  settled:
    'Size, first side and order of girdle and table were settled with the stone that came back.',
  agreed: 'What was agreed',
  was: (carats: string, sizes: string) => `It was ${[carats, sizes].filter(Boolean).join(', ')}.`,
};
