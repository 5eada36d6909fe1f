import { carats, day, mm, plain, timeOfDay } from './numbers';

const sides = { pavilion: 'pavilion', crown: 'crown' };

/** What is up, in a sentence: a side, or the facet that a solid is held with facing up. */
const sideOf = (up: string): string => (up in sides ? `the ${up}` : up);

/** A time of today as such, another day with its date. */
export const whenCured = (iso: string): string =>
  new Date(iso).toDateString() === new Date().toDateString()
    ? timeOfDay(iso)
    : `${day(iso)}, ${timeOfDay(iso)}`;

/** How a stone is shaped and held, and the check before it is glued. */
export const gluingWords = {
  title: 'Shape and dop',
  open: 'Shape and dop',
  toStone: 'To the stone',
  parts: {
    preform: 'Preform',
    side: (up: string) => `For ${sideOf(up)}`,
  },
  preform: {
    ways: 'Ways to shape it',
    turned: 'Cone and cylinder',
    tiers: 'First tiers',
    sawn: 'Sawn on the machine',
    notRound:
      'The outline is not round: a cylinder wastes its corners. The first tiers themselves, or the saw, keep more.',
    drawn: 'The stone in its preform, from the side',
    turnedLead: (angle: string, tier: string, mains: string) =>
      `Grind a flat and glue it. Turn the cone first, at ${angle}°, ${angle === mains ? `as ${tier}` : `flatter than ${tier} at ${mains}°`}, then the cylinder at 90° by turns: never the cylinder alone, or the width goes before the depth is there.`,
    diameter: 'Calipers across',
    height: 'Height over all',
    straight: 'Side under the cone',
    keeps: 'The stone needs there',
    third: 'A third of the height',
    weight: 'The preform weighs',
    left: 'Left all round',
    leftFoot: 'Left at the dop',
    short: (needs: string, has: string) =>
      `The side stands ${has} high and the stone needs ${needs}: grind the cone no deeper.`,
    tiersLead: (tiers: string) =>
      `Cut these tiers straight from the rough, in this order, and stop before the stops: ${tiers}.`,
    over: 'Calipers must read',
    overSizes: (length: string, width: string) => `${length} × ${width}`,
    sawnLead: (kerf: string, piece: boolean) =>
      `With a blade of ${kerf} on the machine, each cut stops before its facet and the wedge falls off in one piece. ${
        piece
          ? 'The wedges are those of the piece.'
          : 'The wedges are those of a block of this size.'
      }`,
    sawCaution:
      'Eye protection, no loose sleeves or hair, a clamp that holds, water on the blade. Never force it, and never dry.',
    noWedge: 'No wedge is worth the saw: grind it.',
    sawHead: ['Tier', 'Angle', 'Index', 'Saw to a depth of', 'Saved', 'Lost in the cut'],
    saved: (ct: number) => `${carats(ct)} saved in pieces`,
    roll: {
      head: 'Is it round?',
      readings: 'Readings across, at even steps',
      help: 'Roll it half a turn between the jaws and type what calipers read, with spaces between: 8.2 8.1 8.25',
      bad: (part: string) => `“${part}” is no reading. Type figures in mm, such as 8.2 8.1 8.25.`,
      few: 'At least two readings are needed.',
      result: (out: string, high: string) =>
        `Out of round by ${out}, widest ${high}° after the first reading.`,
      grind: (mm: string) => `${mm} still to come off there.`,
      reached: 'It reads what it must.',
      small: (mm: string) =>
        `It is ${mm} too small: plan a smaller stone, or let the allowance go.`,
    },
  },
  held: {
    drawn: (tier: string) => `The stone on its dop as ${tier} meets the lap`,
    tiers: 'Which tier meets the lap',
    room: (room: number) => (room > 99 ? 'clear' : mm(room)),
    lap: 'lap',
    overRim: (tier: string, v: number) =>
      `${tier}: the quill would reach ${mm(v)} below the lap. Cut this tier at the lap’s rim, with the quill outside.`,
    lapRim: 'lap, at its rim',
    head: 'Dop',
    usual: 'not on the shelf',
    taken: 'in the plan',
    contact: (v: number) => `holds ${plain(Math.round(v))} mm²`,
    clears: (v: number) => (v > 99 ? 'the lap stays clear' : `the lap stays ${mm(v)} off`),
    noQuill: 'The quill is not measured, so only the dop is looked at.',
    toMachine: 'Measure it',
    more: (n: number) => `${n} more`,
    fewer: 'Fewer',
  },
  glue: {
    head: 'Adhesive',
    bears: (v: number) =>
      `bears ${v >= 10 ? plain(Math.round(v)) : plain(Math.round(10 * v) / 10)} pushes of a hand`,
    cures: (time: string) => `${time} to cure`,
    frees: 'To free it later',
    steps: 'Steps',
    order: 'The label of the bottle decides where it says otherwise.',
    clockOf: (stone: number) => `Stone ${stone}: the adhesive`,
  },
  order: {
    head: (first: 'pavilion' | 'crown') => `If the ${sides[first]} were cut first`,
    side: (up: 'pavilion' | 'crown', name: string) => `For the ${sides[up]}: ${name}`,
    change: 'Change the plan',
  },
  take: 'Take these into the plan',
  takenNow: 'Dop and adhesive are in the plan',
  glued: {
    head: 'When it is glued',
    axis: 'How the long axis was set',
    axisPlaceholder: 'flat of the rough on the lap at 90°, index 96',
    minutes: 'Cures for',
    min: 'min',
    record: 'It is glued',
    recorded: (cured: string) => `On record: cures until ${cured}`,
    cured: (dop: string, at: string) => `Glued onto ${dop}. It can be cut since ${at}.`,
    curing: (dop: string, at: string) => `Glued onto ${dop}. It cures until ${at}.`,
    again: 'Glue it anew',
    undo: 'It was not glued',
  },
  cautions: 'Cautions',
  onToday: {
    curing: 'Cures',
    until: (time: string) => `cures until ${time}`,
  },
  check: {
    title: 'Before it is glued',
    open: 'Check before gluing',
    lead: (open: number) =>
      open === 0
        ? 'Nothing speaks against this stone on this machine.'
        : open === 1
          ? 'One thing is open. Nothing is forbidden: mend it, or go on with your eyes open.'
          : `${open} things are open. Nothing is forbidden: mend them, or go on with your eyes open.`,
    verdicts: { grave: 'Stop and look', care: 'Mind this', unknown: 'Nobody knows' },
    fine: 'In order',
    where: {
      angles: 'To the angles',
      diagram: 'To the diagram',
      plan: 'Change the plan',
      dop: 'To the dop',
      kit: 'To the kit',
      machine: 'To the machine',
      rough: 'To the rough',
    },
    show: (tier: string) => `Show ${tier}`,
    done: 'Gone through, go on',
    recorded: (at: string) => `This plan was gone through on ${at}.`,
    saved: (open: number) =>
      open === 0 ? 'On record: all in order' : `On record, with ${open} open`,
  },
  source: {
    head: 'From the rough',
    piece: (no: number, name: string) => `Piece ${no}${name && ` “${name}”`}`,
    parent: (no: number) => `sawn off piece ${no}`,
    share: 'Its share of the cost',
    found: 'Found there',
    why: 'Reasons',
  },
};
