/** What is said at the wheel beside the facet itself. */
export const wheelWords = {
  more: 'More',
  /** What happened. */
  happened: 'Something happened',
  happenedLead: 'What was it? One key is enough.',
  whats: {
    overcut: 'Cut too deep',
    chip: 'A chip',
    flaw: 'A flaw opened',
    pit: 'A pit',
    'wrong-index': 'Wrong index',
    'wrong-angle': 'Wrong angle',
    cheater: 'Cheater used',
    'lap-charged': 'Lap charged',
    'lap-changed': 'Another lap',
    'bond-failed': 'Stone off the dop',
    compound: 'Another compound',
    photo: 'A picture',
  },
  tooLow: 'Girdle too thin, or a side too short: see what is left',
  facet: 'Facet',
  earlier: 'Facet before',
  later: 'Facet after',
  otherSide: 'Another side',
  howDeep: 'How deep',
  howDeepHelp: 'In mm. Leave it empty where you do not know.',
  teeth: 'Teeth off',
  teethHelp: 'Whole teeth, with a minus where the index was too low.',
  degrees: 'Degrees off',
  degreesHelp: 'Too steep is plus, too flat is minus.',
  cheat: 'Cheat',
  cheatHelp: 'In degrees; towards rising index is plus.',
  lapName: 'Lap',
  compoundName: 'Compound',
  lead: {
    overcut: 'How far below its stop does the facet stand?',
    chip: 'Where, and how deep does it go?',
    flaw: 'How much deeper does the flaw go?',
    pit: 'How deep is it, as far as you can see?',
    'wrong-index': 'By how many teeth?',
    'wrong-angle': 'By how much?',
    cheater: 'How far was the facet turned to come in?',
    'lap-charged': 'What did the lap get?',
    'lap-changed': 'Which lap does the work of this pass from now on?',
    'bond-failed': 'Switch the lap off first. Then find the stone.',
    compound: 'What do you polish with from now on?',
    photo: 'The picture goes to the stone, with the others of its work.',
  },
  point:
    'Touch the stone where it is: then each facet that can take it is tried. Without that it goes with this facet.',
  pointed: 'It lies at the ring. Each facet that can take it is tried.',
  keep: 'Keep it',
  take: 'Choose the picture',
  kept: (what: string, facet: string) => (facet ? `${what}, ${facet}: kept` : `${what}: kept`),
  takeBack: 'Take it back',
  goOn: 'Go on',
  takesGirdle: (mm: string, girdle: string) =>
    `${mm} mm along the facet are ${girdle} mm off the girdle.`,
  help: {
    overcut: [
      'Stop here: every further touch takes more away.',
      'Its tier has to follow by as much, or its meets stay open on one side. A hair under 0.02 mm is often polished away with the meets.',
      'Cut the tier again down to the deepest facet, then let the tiers that meet it follow.',
    ],
    chip: [
      'Look at it under a loupe: a chip often runs on under the surface.',
      'Where a later tier goes over the place, it may go by itself. Else the facet and its tier have to come down by its depth.',
      'Chips on fresh edges come of too much speed, a coarse lap, or cleavage.',
    ],
    flaw: [
      'Do not chase it on one facet alone: the tier and its neighbours have to follow.',
      'A shallow one in the pavilion near the girdle often shows less than a facet that stands too deep.',
      'A crack that runs to the surface may go on: less pressure, less heat.',
    ],
    pit: [
      'A pit goes as deep as it is: the whole facet must come down to its ground.',
      'After going back to a coarse lap, pits come from the grain that was pressed in: take off at least what that lap leaves.',
      'Leave it where nobody will see it, and say so on the card.',
    ],
    'wrong-index': [
      'Do not touch the lap again. Dial the right index and look where the facet would come in.',
      'Where the wrong facet is small, the right one takes it away. Else the tier comes down until it does.',
    ],
    'wrong-angle': [
      'Set the angle anew from the protractor, not from memory, and touch for a second.',
      'Too steep has taken off at the girdle, too flat at the point. What was taken there has to be followed by the tier.',
    ],
    cheater: [
      'Set it back before the next facet, or every one after it is turned.',
      'Where each facet of a tier wants the same cheat, the stone sits turned on its dop.',
    ],
    'lap-charged': [
      'Wash hands and stone before the next facet. Its dial heights may shift a little.',
    ],
    'lap-changed': [
      'Another lap is of another thickness: the heights that were read no longer count for this pass.',
    ],
    'bond-failed': [] as string[],
    compound: ['Wash lap, stone and hands: two compounds on one lap polish worse than either.'],
    photo: [] as string[],
  },
  /** The order of the work. */
  order: 'Change the order',
  orderLead: 'The rest comes back by itself. What you leave open stays on the list.',
  goTo: 'Go on with',
  goToLine: (tier: string, pass: string, n: number) =>
    n === 1 ? `${tier} · ${pass}: 1 facet open` : `${tier} · ${pass}: ${n} facets open`,
  passedOver: (n: number) =>
    n === 1 ? '1 facet before it waits until later.' : `${n} facets before it wait until later.`,
  uncut: (tiers: string) =>
    `${tiers} would still be uncut: pictures and meets count on it, and a stop that needs it cannot be seen.`,
  again: 'Cut again',
  againLine: (tier: string, pass: string) => `${tier}, from ${pass} on`,
  opens: (cuts: number, minutes: string) =>
    cuts === 1 ? `1 cut is open again: ${minutes}.` : `${cuts} cuts are open again: ${minutes}.`,
  pits: (lap: string, depth: string) =>
    `${lap} leaves damage up to ${depth} deep: each lap after it has to take that off again, or pits stay in the polish.`,
  pitsUnknown: (lap: string) =>
    `${lap} is coarser than what the facets have had: pits stay unless each lap after it is gone through in full.`,
  meetsMove: 'A tier that is cut deeper moves its meets: tiers that end on it may have to follow.',
  doGoTo: 'Go on with it',
  doAgain: 'Open it again',
  nothingOpen: 'Nothing else is open on this side.',
  nothingDone: 'Nothing is cut on this side yet.',
  outOfTurn: 'Out of turn.',
  outOfTurnPlanned: 'Out of turn: the picture shows the stone as planned.',
  asItIs: 'The pictures show the stone as it was cut.',
  /** The height dial. */
  height: 'Height',
  heightTitle: 'Height dial',
  foretold: (mm: string, sd: string) => `Dial ${mm} ± ${sd} mm`,
  readHere:
    'Read the dial when this facet is done: with the other one of the pair it tells the rest.',
  readIt: 'Read',
  reading: 'Dial reads',
  readingHelp: 'When the facet is finished, on the lap that stands still.',
  goodPair: (tiers: string) => `Readings that tell most on this side: ${tiers}.`,
  strange: (off: string, told: string) =>
    `This is ${off} mm off what the other readings say (${told}). Look whether tier, angle and lap are right, and whether a finger bent the quill.`,
  atHeight: (above: string) => `${above} mm above the finish`,
  deeperThan: (mm: string) => `${mm} mm below the finish`,
  heightsOf: 'What the dial reads when a tier is finished',
  notKnown: 'not known yet',
  noDial: 'This machine has no height dial. Set its divisions under Machine and habits.',
  keepReading: 'Keep the reading',
  /** The girdle. */
  measure: 'Measure with calipers',
  girdle: 'Girdle, thinnest place',
  girdleHelp: 'With calipers, in mm, after a wipe.',
  girdlePlan: (mm: string) => `planned ${mm}`,
  girdleGo: (left: string, dial: string, divisions: string) =>
    `Girdle: ${left} mm to go, ${dial} mm on the dial${divisions && `, ${divisions} divisions`}`,
  girdleThere: (mm: string) => `Girdle: ${mm} mm, as planned or under`,
  girdleThin:
    'The girdle is thinner than planned. Go no deeper; a crown tier a little flatter saves what is left.',
  keepMeasure: 'Keep the measure',
  across: 'The stone across',
  acrossLead: (tier: string, planned: string, flats: boolean) =>
    `${tier} is planned at ${planned} ${flats ? 'from flat to flat' : 'from flat to corner'}. Where it came out otherwise, the plan goes on from what calipers read: heights, stops in mm and weight follow. What was cut stays cut.`,
  acrossField: 'Measured',
  acrossKeep: 'Go on from this size',
  /** Without a hand. */
  hands: 'Hands-free',
  handsLead: 'Pedal, presenter and voice belong to this browser.',
  pedal: 'Pedal and keys',
  pedalLead:
    'A foot pedal or a presenter is a keyboard. Choose what it is to do, then press it: that key does it from then on.',
  acts: {
    done: 'Done',
    back: 'Back',
    skip: 'Skip',
    happened: 'Something happened',
    say: 'Say it again',
  },
  learn: 'Learn a key',
  learning: 'Press the key or pedal now. Escape leaves it.',
  usualKeys: (keys: string) => `by ${keys}`,
  learnedToo: (usual: string, keys: string) => `by ${usual}, and learned: ${keys}`,
  forget: 'Forget',
  splash: 'Splash guard',
  splashHelp:
    'Drops, a resting hand and touches in several places do nothing. Two fingers held go back one step.',
  speak: 'Say what is to be dialled',
  speakHelp: 'In this device’s own voice. It says only what changes.',
  noVoice: 'This browser has no voice.',
  chime: 'A chime at Done',
  awake: 'The screen stays on while the bench is open.',
  notAwake:
    'This browser lets the screen go dark: raise its time-out in the settings of the device.',
  goesDark: 'The screen may go dark',
  /** Adapting. */
  adapt: 'Adapt this stone',
  adaptLead: 'Another angle or stop, solved again at once. The diagram stays as it is.',
  tier: 'Tier',
  angle: 'Angle',
  flatterBy: (v: string) => `−${v}°`,
  steeperBy: (v: string) => `+${v}°`,
  stop: 'Where the cut stops',
  stopHelp: 'As the diagram editor takes it: meet P1 P2 G1, size 0.5, girdle 0.02, depth 0.4.',
  canStop: 'Other stops of this tier',
  drawn: (angle: string) => `drawn at ${angle}°`,
  follows: 'What follows',
  planned: 'planned',
  so: 'changed',
  againTier: (tier: string, n: number) =>
    n === 1
      ? `${tier}: 1 facet that is cut is cut anew at the new angle.`
      : `${tier}: ${n} facets that are cut are cut anew at the new angle.`,
  deeperTier: (tier: string, mm: string) =>
    `${tier} is cut and has to come ${mm} mm deeper; it is opened again.`,
  tooDeepTier: (tier: string, mm: string) =>
    `${tier} is cut and stands ${mm} mm too deep for this: its meets stay open.`,
  gap: (um: string) => `Meets open by up to ${um}.`,
  gapNone: 'All meets close.',
  leaks: (tier: string, margin: string) =>
    `${tier} stands ${margin}° against the critical angle: it lets light out.`,
  marginOf: (tier: string, margin: string) => `${tier}: ${margin}° above the critical angle.`,
  cutItSo: 'Cut it this way',
  asDrawn: 'Back to the diagram',
  keepDiagram: 'Keep as a new diagram',
  diagramKept: 'Kept in the library',
  adapted: 'Adapted at the wheel: not as the diagram draws it.',
  figures: {
    carats: 'Weight',
    height: 'Height',
    crown: 'Crown',
    girdle: 'Girdle',
    table: 'Table',
    return: 'Light return',
    window: 'Window',
  },
  /** The height that is left. */
  left: 'Height that is left',
  leftLead: 'From the edge of the finished side up to the end of the rough.',
  leftField: 'Height left',
  needs: (mm: string) => `The plan takes ${mm}, the girdle included.`,
  ways: {
    'as-planned': 'As planned',
    flatter: 'Flatter angles',
    steeper: 'Steeper angles',
    'wider-table': 'A wider table',
    'thinner-girdle': 'A thinner girdle',
    'thicker-girdle': 'A thicker girdle',
    'girdle-then-flatter': 'A thinner girdle and flatter angles',
  },
  noWay:
    'No way fits into that height: not even half of the planned angles do. Cut a smaller stone.',
  findWays: 'Find the ways',
  /** A girdle aslant. */
  lean: 'Is the girdle level?',
  leanLead: 'After the first touch of this tier, look at the girdle line all round.',
  level: 'It runs parallel',
  turned:
    'Level, but the corners miss those of the girdle, all by the same: the stone is turned. Cheat until the corners meet, and keep that cheat for every facet of this side.',
  thickest: 'Tap the wheel where the girdle is thickest.',
  thickestAt: 'Thickest at index',
  thick: 'Thickest',
  placeAt: (no: number) => `Place ${no} at index`,
  thickAt: (no: number) => `Thick at place ${no}`,
  otherPlace: 'Another place',
  unevenGirdle: (mm: string) =>
    `The places differ by ${mm} mm from a girdle that stands aslant as a whole. Measure again, or look for a facet that is too deep.`,
  leansBy: (tilt: string, towards: string) =>
    `The stone leans by ${tilt}° towards index ${towards}.`,
  nudge: 'Nudge the wax',
  nudgeHow: (mm: string, towards: string, other: string) =>
    `Warm the wax until it gives. Lift the rim at index ${towards} by ${mm} mm, and press it down as much at ${other}. A hair at a time: cut, look, nudge again.`,
  nudgePicture: (mm: string, lift: string, press: string) =>
    `From the side: lift at ${lift} by ${mm} mm, press down at ${press}`,
  nudged: 'It is nudged: dial as planned',
  byAngles: 'Correct by angles',
  byAnglesHow:
    'Everything that is dialled on this side follows the lean; the stone stays as it sits.',
  dialThen: (tier: string) => `${tier} is dialled`,
  /** At the lap. */
  lap: 'At this lap',
  /** Time. */
  time: 'Time left',
  timeLead: 'At your own pace so far.',
  until: 'Until',
  fits: (cuts: number, last: string) =>
    cuts === 1 ? `1 cut fits: ${last}.` : `${cuts} cuts fit, up to ${last}.`,
  fitsAll: (at: string) => `All of it fits: done at about ${at}.`,
  fitsNone: 'Not one cut fits any more.',
  doneAt: (at: string) => `without a pause done at ${at}`,
  /** A pause. */
  paused: 'Paused',
  pausedLead: 'This time does not count. The stone and everything ticked are as you left them.',
  resume: 'Go on',
  /** The stone came off. */
  offDop: 'The stone is off its dop',
  offDopLead:
    'Nothing is lost as long as it is found. Glue it as it sat, and find its turn from facets that are finished.',
  gluedNow: 'Glued now',
  clockOf: (stone: number) => `Stone ${stone}, at the transfer`,
  gluedWith: (dop: string, adhesive: string) => [dop, adhesive].filter(Boolean).join(' · '),
  cures: (until: string) => `cures until ${until}`,
  otherGlue: 'With another dop or adhesive',
  lineUp: 'Facets to line up by',
  lineUpOne: (facet: string, index: string, angle: string) => `${facet}: index ${index}, ${angle}°`,
  nothingToLineUp: 'No facet is cut yet: it can sit as it likes.',
  linedUp: 'It sits as before',
  moved:
    'Where it does not lie flat at any setting, the stone leans: nudge warm wax a hair at a time, or take it off and glue it again.',
  /** Polishing. */
  polish: 'Polish comes in on one side',
  polishLead: 'Tap where the facet is bright already.',
  towards: (tooth: string) => `towards index ${tooth}`,
  towardsDop: 'towards the dop',
  towardsOut: 'away from the dop',
  inTheMiddle: 'in the middle',
  bright: (where: string[]) => `Bright ${where.join(' and ')}`,
  levelFacet:
    'On the adapter a level facet has no index: correct angle and cheater by a hair, towards the side that is still dull, and touch again.',
  cheatTowards: (tooth: string, sign: string) =>
    `A hair of cheater towards index ${tooth} (${sign}), or press the side that is still dull.`,
  flatter: (dial: string) =>
    `The facet stands a hair too steep now: set the angle flatter by less than a tenth${dial}.`,
  steeper: (dial: string) =>
    `The facet stands a hair too flat now: set the angle steeper by less than a tenth${dial}.`,
  dialUp: ', or the dial up a little',
  dialDown: ', or the dial down a little',
  middleBright:
    'Bright in the middle: the lap is crowned or the facet is rounded. Go to a flatter part of the lap, with less pressure.',
  scratches: 'Scratches stay',
  scratchHelp: [
    'Fine and all the same way: the lap before was not cleared. Go back one step for this facet.',
    'A few deep ones in any direction: a grain got onto the lap. Wipe it, wash stone and hands, charge it again.',
    'Curved with the lap and coming back: run slower, with a lighter hand.',
  ],
  keys: {
    happened: 'Something happened',
    order: 'Change the order',
    height: 'Height dial',
    hands: 'Pedal, voice and splash guard',
    time: 'Time left',
    lap: 'At this lap',
    measure: 'Measure with calipers',
    polish: 'Polish comes in on one side',
    adapt: 'Adapt this stone',
    left: 'Height that is left',
    lean: 'Is the girdle level?',
    pause: 'Pause',
    say: 'Say it again',
  },
};
