/** Clocks that run down at the bench. */
export const clockWords = {
  start: (time: string) => `Start ${time}`,
  stop: 'Stop',
  over: 'Time is over',
  done: 'Done',
  step: (n: number) => `step ${n}`,
  running: 'Clocks',
  until: (time: string) => `until ${time}`,
};
