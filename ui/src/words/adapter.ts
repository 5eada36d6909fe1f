/** What is said of the table adapter at the bench. */
export const adapterWords = {
  title: 'Table adapter',
  open: 'Table adapter',
  help: 'It comes in from one side, or its angle is not known',
  set: (angle: string) => `The protractor stands at ${angle}° for this adapter.`,
  picture: 'The table as you look at it from the front of the machine',
  sides: { far: 'Far', near: 'Near', left: 'Left', right: 'Right' },
  tilted: 'The mark begins at one side',
  tiltedLead:
    'Touch the table for a second and look. Which side was on the lap first, seen from the front of the machine? The far side is that away from the mast.',
  off: 'Deeper there by',
  offHelp: 'In mm, against the side opposite; leave it empty where you do not know.',
  trueAngle: 'The true angle of the adapter',
  trueLead:
    'Put the aligning dop into the adapter and bring its flat end flush on a lap that stands still. Do it several times and write down what the protractor shows.',
  readings: 'Readings',
  readingsHelp: 'In degrees, with blanks between them.',
  readingsBad: 'Figures from −5 to 95, with blanks between them.',
  keep: 'Keep this angle',
};
