/** What is said of runs: one plan, several stones. */
export const runWords = {
  count: 'How many',
  order: 'Cut',
  orders: { tier: 'tier by tier', stone: 'stone by stone' } as Record<string, string>,
  keep: (n: number) => `Plan ${n} stones`,
  title: (name: string) => `Run: ${name}`,
  partOf: (place: number) => `number ${place} of a run`,
  toRun: 'The run',
  bench: 'Cut the run',
  now: (place: number, all: number, number: number) => `Stone ${place} of ${all}: number ${number}`,
  hours: 'Hours shared out',
  next: (stone: number, tier: string, tooth: number) => `next: stone ${stone}, ${tier} at ${tooth}`,
  done: 'Every stone of the run is cut',
  sheet: 'One sheet',
};
