/** What is said of entries on their way to the server's disk. */
export const diskWords = {
  onDisk: 'on disk',
  waiting: (n: number) => `${n} waiting`,
  waitingSomewhere: (n: number) =>
    n === 1 ? '1 entry is not on disk yet' : `${n} entries are not on disk yet`,
  away: (n: number) =>
    `Cressa is away. Cut on: ${n} ${n === 1 ? 'entry waits' : 'entries wait'} in this browser.`,
  notTaken: (why: string, n: number) =>
    `${why} Cut on: ${n} ${n === 1 ? 'entry waits' : 'entries wait'} in this browser and ${n === 1 ? 'goes' : 'go'} out by ${n === 1 ? 'itself' : 'themselves'} then.`,
  clockOff: (by: string, ahead: boolean) =>
    `The clock of this device is ${by} ${ahead ? 'ahead' : 'behind'}. Entries keep their order, but times at the wheel come out wrong; set it right.`,
  disagree: (facet: string, cut: string, left: string) =>
    cut === left
      ? `${facet}: one screen says that it was cut, another that it was left out. It counts as cut; both are on record.`
      : `${facet}: ${cut} says that it was cut, ${left} that it was left out. It counts as cut; both are on record.`,
  someone: 'This device',
  wasCut: 'It was cut',
  wasLeft: 'It was left out',
  fleeting:
    'This browser keeps nothing for Cressa: it is a private window, or its disk is full. Entries that are not on disk yet are lost if the page is closed.',
  refused: (n: number) =>
    n === 1
      ? 'An entry could not be taken into the log.'
      : `${n} entries could not be taken into the log.`,
  stoneGone: 'The stone it belongs to is not here any more. Look for it under Stones.',
  read: 'What to do',
  refusedTitle: 'Not taken into the log',
  noneRefused: 'Every entry has been read.',
  understood: 'Understood',
  kinds: {
    done: 'Cut: facet',
    skip: 'Left out: facet',
    check: 'Check',
    transfer: 'The stone was turned over',
    note: 'Note',
    undo: 'Taken back',
    begin: 'Begun',
    end: 'Paused',
  } as Record<string, string>,
  visit: (kind: 'done' | 'skip', tier: string, tooth: number, pass: string) =>
    `${kind === 'done' ? 'Cut' : 'Left out'}: ${tier} at ${tooth}${pass && `, ${pass}`}`,
  reloads: 'ready to reload offline',
  noReload: 'not ready to reload offline',
  newPlan: (no: number) => `The plan was changed at the desk: it is plan ${no} now.`,
  newPlanLead:
    'Angles, stops or passes may be different. What you have ticked is kept. Read the new plan before you cut on.',
  takePlan: 'Read the new plan',
  planAway:
    'The new plan could not be fetched: Cressa is away. Try again when the network is back.',
};
