import { angle, carats, plain } from './numbers';

/** What is said of the instruments on the bench. */
export const instrumentWords = {
  tab: 'Instruments',
  lead: 'Dials, calipers and scales that tell Cressa what they read. Nothing depends on them: every number can be typed.',
  none: 'No instrument is read yet. A digital dial, calipers or a scale that sends its readings over TCP or a serial port goes here; “cressa simulate” runs a machine to try it with.',
  find: 'Look for instruments',
  finding: 'Looking …',
  foundNone: 'Nothing was found. Switch the instrument on, or type its address.',
  found: 'Found',
  read: 'Read this one',
  simulated: 'the simulated machine',
  add: 'Type an address',
  name: 'Name',
  port: 'Connected by',
  ports: { tcp: 'Network (TCP)', serial: 'Serial port' },
  address: 'Address',
  addressHelp: { tcp: 'Such as 127.0.0.1:8475', serial: 'Such as /dev/ttyUSB0 or COM3' },
  baud: 'Speed, baud',
  keep: 'Save',
  saved: 'Instrument saved',
  takeOff: 'Stop reading it',
  takenOff: (name: string) => `${name} is no longer read`,
  here: 'is read',
  looking: 'is looked for',
  unread: (n: number, last: string) =>
    n === 1
      ? `1 line could not be read: “${last}”`
      : `${n} lines could not be read, the last: “${last}”`,
  nothingYet: 'It has told no reading yet.',
  quantities: {
    angle: 'Angle',
    index: 'Index',
    height: 'Height',
    calipers: 'Calipers',
    scale: 'Scale',
  },
  reads: 'Reads',
  is: 'Is',
  shouldBe: 'It should be now',
  set: 'Set it',
  reversed: 'Counts the other way',
  offset: 'Offset',
  asRead: 'As it reads',
  correct: 'Correct',
  correctLead:
    'Bring it to something known: a flat reference, a gauge block, an empty pan. Then say what it should read.',
  /** A reading with its unit. */
  reading: {
    angle: (v: number) => `${angle(v)}°`,
    index: (v: number) => plain(v),
    height: (v: number) => `${plain(v)} mm`,
    calipers: (v: number) => `${plain(v)} mm`,
    scale: (v: number) => carats(v),
  },
  units: { angle: '°', index: 'teeth', height: 'mm', calipers: 'mm', scale: 'ct' },
  /** Beside a field. */
  take: (reading: string) => `Take ${reading}`,
  takeKey: 'Take the reading of an instrument into a number field',
  // At the bench.
  atStop: 'at stop',
  held: 'held',
  low: (by: string) => `${by} low`,
  high: (by: string) => `${by} high`,
  away: (name: string, why: string) => `${name} is away. ${why}`,
  keeps: 'Kept with Done',
};
