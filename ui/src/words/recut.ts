import { angle, mm, plain, thousandths } from './numbers';

/** What is said where a finished stone is recut. */
export const recutWords = {
  title: (of: string) => `Recut ${of}`,
  anyTitle: 'Recut a stone',
  anyLead:
    'Which diagram does the stone follow, and how wide is it? Measure across the narrowest place.',
  diagram: 'Diagram',
  width: 'Width',
  material: 'Material',
  show: 'Show the stone',
  byDiagram: 'Its diagram is known',
  byMeasures: 'It is only measured',
  measuredLead:
    'Measure what you can reach. Angles are those of the largest facets of crown and pavilion, read on the machine or with a reader; the table is not counted among the facets.',
  outline: 'Outline',
  measures: {
    width: 'Width',
    length: 'Length',
    height: 'Height',
    table: 'Table',
    girdle: 'Girdle',
    crown: 'Crown angle',
    pavilion: 'Pavilion angle',
    crownFacets: 'Crown facets',
    pavilionFacets: 'Pavilion facets',
    girdleFacets: 'Girdle facets',
  },
  sketch: 'The stone from the side, with what is measured',
  find: 'Find its diagram',
  noneLike:
    'No diagram of that outline can be brought to these measures. Choose another outline, or leave some out.',
  off: (off: number) =>
    off < 1.5
      ? 'It fits as well as such a stone can be measured.'
      : off < 4
        ? 'It fits roughly: look at what is off.'
        : 'It hardly fits.',
  residual: (what: string, is: string, fitted: string) =>
    is === fitted ? `${what} ${is}` : `${what} ${is}, here ${fitted}`,
  takeLike: 'The stone is like this',
  measuredOrigin: (name: string) => `measured on a stone, after ${name}`,
  otherForm: 'Another stone',
  anew: 'To any diagram, planned anew',
  logged: 'as its log tells',
  followed: 'as its diagram has it',
  asItIs: 'as it is',
  after: 'after',
  chooseWay: 'choose a way',
  mark: 'Mark on the stone',
  tools: {
    chip: 'Chip',
    more: 'Add to it',
    edge: 'Worn edge',
    face: 'Worn facet',
    keep: 'Protect',
  } as Record<Tool, string>,
  how: {
    chip: 'Click where the chip is. Turn the stone by dragging it. With the keyboard, arrows turn it and Enter marks the middle.',
    more: 'Click further points of the same damage: one facet has to take all of them out.',
    edge: 'Click beside a worn edge: it is taken from end to end.',
    face: 'Click the facet that is worn, such as the table.',
    keep: 'Click facets that must not be touched. Click again to let go.',
  } as Record<Tool, string>,
  damages: 'What has to go',
  none: 'Nothing is marked yet. Choose what you see and click it on the stone.',
  damage: (no: number, kind: Tool, points: number) =>
    `${no} · ${{ chip: 'Chip', more: 'Chip', edge: 'Worn edge', face: 'Worn facet', keep: '' }[kind]}${
      kind === 'chip' && points > 1 ? `, ${points} points` : ''
    }`,
  deep: 'Depth',
  clearance: 'Take off beyond it',
  remove: (no: number) => `Remove damage ${no}`,
  protectedFacets: (names: string) => `Protected: ${names}`,
  hidden: 'The setting hides the girdle',
  hides: 'and beside it',
  hiddenHelp: 'What lies there may stay: the setting covers it.',
  stays: (nos: string) => `Damage ${nos} stays: the setting hides it.`,
  turned: 'Turn the largest copy by up to',
  ways: 'Ways',
  thin: (girdle: number) =>
    `The girdle comes to ${mm(girdle)} at its thinnest: it can chip in setting.`,
  another: 'Another diagram',
  anotherOf: (name: string) => `another diagram: ${name}`,
  lies: (tilt: number) =>
    tilt < 0.5
      ? 'Its table faces as that of the stone.'
      : `Its table faces ${plain(Math.round(tilt * 10) / 10)}° away from that of the stone: it is glued so.`,
  notWhole: 'The search was broken off after some seconds; a longer one may find more.',
  cut: (facets: number) => `${facets} ${facets === 1 ? 'facet' : 'facets'} to cut`,
  nothingToCut: 'nothing to cut',
  weight: 'Weight',
  size: 'Width × length',
  height: 'Height',
  table: 'Table',
  girdle: 'Girdle',
  culet: 'Culet off the middle',
  light: 'Light returned',
  window: 'Window',
  gap: 'Widest gap at a meet',
  hours: 'Hours at your pace',
  before: 'before',
  afterwards: 'after',
  hoursOf: (cut: string, polish: string) => `${cut} to cut, ${polish} to polish the rest`,
  takes: (facets: number, least: number, most: number) =>
    `Takes ${range(least, most, thousandths)} mm off ${facets} ${facets === 1 ? 'facet' : 'facets'}.`,
  added: (part: string, at: number, indexes: readonly number[]) =>
    `Adds ${part} ${angle(at)}° at ${indexes.map(plain).join('-')}.`,
  first: 'Cut first',
  polishRest: 'Polish the other facets too',
  from: 'From which pass',
  name: 'What it is',
  nameExample: 'such as: ring stone, for a friend',
  why: 'What for',
  whyExample: 'such as: a chip at the girdle',
  keep: 'Plan this recut',
  photos: 'Photos before',
  care: 'Mind with this stone',
  others: "Is it somebody else's?",
  takeIn: 'Write down first what was agreed, with photos',
  agreed: 'Take it in first: owner, what was agreed, photos',
  range: (least: number | null, most: number | null) =>
    least === null || most === null ? 'none' : range(least, most, mm),
};

/** What is marked by pointing. */
export type Tool = 'chip' | 'more' | 'edge' | 'face' | 'keep';

const range = (least: number, most: number, text: (v: number) => string): string =>
  text(least) === text(most) ? text(most) : `${text(least)} to ${text(most)}`;
