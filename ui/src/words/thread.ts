/** What is said of a stone's progress. */
export const threadWords = {
  head: 'Progress',
  open: 'Catch up',
  lead: 'Every cut in order, as wide as the minutes it took or will take.',
  slider: 'Tick off cuts',
  left: (minutes: string) => `${minutes} left`,
  ask: (n: number, to: string) =>
    n === 1 ? `Tick ${to} as cut?` : `Tick ${n} cuts as done, up to ${to}?`,
  tick: (n: number) => (n === 1 ? 'Tick it' : `Tick all ${n}`),
  leave: 'Leave it',
  ticked: (n: number) => (n === 1 ? '1 cut ticked' : `${n} cuts ticked`),
  catchUp: 'Drag along it, or use the arrow keys, to tick off what was cut away from the screen.',
  gateFirst: {
    transfer: 'The stone is turned over at the bench before the other side can be ticked.',
    'adapter-on': 'The table adapter is fitted at the bench before the table can be ticked.',
    'adapter-off': 'The table adapter comes off at the bench before more can be ticked.',
    'off-dop':
      'The stone is off its dop: it is glued and lined up at the bench before more can be ticked.',
  },
};
