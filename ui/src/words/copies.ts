/** What is said of copies of everything. */
export const copyWords = {
  tab: 'Copies',
  lead: 'All your records and photos in one file. Keep some of them on another disk.',
  every: 'Make a copy',
  everys: { day: 'every day', week: 'every week', never: 'only when I say so' } as Record<
    string,
    string
  >,
  folder: 'Into the folder',
  folderHelp: (shelf: string) =>
    `Empty means ${shelf}. A folder on another disk also helps when this one fails.`,
  keep: 'Keep the last',
  save: 'Save the plan',
  saved: 'The plan is saved',
  now: 'Make a copy now',
  last: (moment: string) => `The last copy was made ${moment}.`,
  none: 'No copy was made yet.',
  failed: (why: string, moment: string) => `The last try failed (${moment}): ${why}`,
  making: 'The copy is being made',
  bringing: 'The copy is being read and checked',
  replacing: 'The records are being replaced now',
  stop: 'Stop',
  jobFailed: (why: string) => `It did not work. ${why}`,
  stopped: 'It was stopped; nothing was changed.',
  take: 'Bring in a copy from elsewhere',
  taken: 'The copy is in the list',
  head: {
    made: 'Made',
    entry: 'Last entry',
    stones: 'Stones',
    diagrams: 'Diagrams',
    entries: 'Entries',
    photos: 'Photos',
    size: 'Size',
  },
  present: 'Now',
  inCopy: 'In the copy',
  bringBack: 'Bring back',
  bringBackOf: (made: string) => `Bring back the copy of ${made}`,
  download: 'Download',
  downloadOf: (made: string) => `Download the copy of ${made}`,
  asks: (made: string) => `Bring back the copy of ${made}?`,
  wouldReplace: 'It takes the place of everything that is here now:',
  isKept:
    'What is here now is not deleted: it stays in a folder of its own beside the records. Devices that are let in now stay so. Tablets that are at work should wait until this is done.',
  replace: 'Replace the records',
  cancel: 'Keep what is here',
  onToday: {
    failed: (why: string) => `No copy of your records could be made: ${why}`,
    old: (last: string) => `The last copy of your records was made ${last}.`,
    look: 'Look at the copies',
    wrong: 'Look at the devices',
  },
  bytes: (n: number): string => {
    const units = ['bytes', 'kB', 'MB', 'GB'];
    let i = 0;
    let v = n;
    while (v >= 1000 && i < units.length - 1) {
      v /= 1000;
      i++;
    }
    return `${v.toLocaleString(navigator.language, { maximumFractionDigits: i > 1 ? 1 : 0 })} ${units[i]}`;
  },
};
