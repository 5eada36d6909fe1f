import { plain } from './numbers';

/** What is said of the ear at the bench. */
export const earWords = {
  title: 'The ear',
  lead: 'You hear when a facet is done: the grinding stops. Let this tablet listen along, and it chimes when it does.',
  privacy: 'It is off until you let it listen. Nothing is recorded, and nothing leaves this page.',
  listen: 'Let it listen',
  opening: 'The browser asks whether it may …',
  stop: 'Listen no more',
  deaf: {
    insecure:
      'Over plain http no browser gives a page its microphone. Use the machine that Cressa runs on, or https with a certificate of your own (--cert, --key).',
    refused:
      'The browser does not let this page listen. Allow the microphone for it in the browser’s settings.',
    none: 'No microphone was found, or another program has it.',
  },
  idle: 'Let the lap run with the stone lifted, then',
  learnIdle: 'Learn the idle lap',
  cutting: 'Cut a facet, and while it grinds',
  learnCutting: 'Learn the cut',
  learning: 'Listening …',
  forget: 'Learn anew',
  alike:
    'Cutting was not told from the idle lap. Bring the tablet nearer to the wheel, and learn both once more.',
  learned: (from: number, to: number, pass: string) =>
    `On ${pass} this stone speaks between ${kilo(from)} and ${kilo(to)} kHz.`,
  notLearned: (pass: string) => `It does not know this stone on ${pass} yet.`,
  level: 'How loud it grinds',
  grinding: 'grinding',
  quiet: 'quiet',
  stopped: 'It stopped',
  rounding: 'I am turning it by hand',
  ring: 'Where in the turn it hits',
  ringLead: 'Dark where it hits the lap. Round is when it hits all the way.',
  byDial: 'The turn comes from the index dial.',
  byTaps: 'No dial tells the index: tap once in each turn, always at the same place.',
  tap: 'Here',
};

const kilo = (hz: number): string => plain(Math.round(hz / 100) / 10);
