import type {
  AsCut,
  BenchScript,
  Choices,
  Diagram,
  Draft,
  DraftTier,
  Habits,
  Intake,
  Machine,
  RepairPage,
  Settings,
  StoneLine,
  Usual,
} from '../api/client';
import { cube } from './cube';

/** Records for tests: whole ones, of which a test names only what it is about. */

export const draftOf = (change: Partial<Draft> = {}): Draft => ({
  name: '',
  designer: '',
  source: '',
  date: '',
  licence: '',
  note: '',
  outline: 'round',
  gear: '96',
  refractiveIndex: '1.54',
  width: '8',
  firstSide: 'pavilion',
  indexing: 'dialled',
  tiers: [],
  ...change,
});

export const tierOf = (change: Partial<DraftTier> = {}): DraftTier => ({
  key: 't1',
  name: 'P1',
  part: 'pavilion',
  angle: '41',
  indexes: '96-12-24',
  stop: 'centre',
  note: '',
  optional: false,
  ...change,
});

export const diagramOf = (change: Partial<Diagram> = {}): Diagram => ({
  id: 'd1',
  starter: false,
  revision: '',
  draft: draftOf(),
  edited: true,
  version: 1,
  created: '2026-03-01T10:00:00Z',
  updated: '2026-03-01T10:00:00Z',
  origin: '',
  variantOf: '',
  senseChosen: true,
  freehand: false,
  facts: null,
  ...change,
});

const passes = [
  { id: 'cut', name: 'Cut', lap: '600', compound: '', lapItem: '', compoundItem: '' },
];

type BenchFacet = BenchScript['facets'][number];
type BenchVisit = BenchScript['visits'][number];

export const benchFacetOf = (change: Partial<BenchFacet> = {}): BenchFacet => ({
  id: 'f1',
  no: 0,
  tier: 'P1',
  part: 'pavilion',
  setup: 0,
  angle: 41,
  reading: 41,
  below: 41,
  above: 41,
  atMeet: true,
  adapter: false,
  dial: { tooth: 96, cheat: 0, cheatTurns: 0, azimuth: 0 },
  hole: null,
  division: null,
  distance: 0,
  note: '',
  target: { x: 0, y: 0, z: 0 },
  touch: { patch: [], false: null, early: 0 },
  ...change,
});

/** A visit in the first pass, which is alone in its round and tier. */
const benchVisitOf = (i: number, change: Partial<BenchVisit> = {}): BenchVisit => ({
  setup: 's1',
  pass: 'cut',
  facet: i,
  adapter: false,
  first: true,
  stop: 'to the centre',
  block: i,
  blockEnd: i + 1,
  roundEnd: i + 1,
  minutes: 2,
  spare: 0,
  now: 0,
  after: 1,
  move: { first: i === 0, pass: false, from: null, teeth: 0 },
  ...change,
});

const dialled = (tooth: number) => ({
  tooth,
  cheat: 0,
  cheatTurns: 0,
  azimuth: 0,
});

/** The script of a stone of four facets: a tier of two rounds below, one facet above. */
export const scriptOf = (change: Partial<BenchScript> = {}): BenchScript => ({
  stoneId: 'a',
  workId: 'w1',
  number: 7,
  name: 'Sphene for the fire-lane telescope',
  diagram: 'Spiral Arm',
  material: 'Sphene',
  planNo: 1,
  finished: false,
  gear: 96,
  tick: 'facet',
  cheater: 'degrees',
  cheatGap: 0,
  mmPerUnit: 4,
  setups: [
    {
      id: 's1',
      up: 'pavilion',
      name: '',
      right: { x: -1, y: 0, z: 0 },
      above: { x: 0, y: 1, z: 0 },
      turn: 0,
    },
    {
      id: 's2',
      up: 'crown',
      name: '',
      right: { x: 1, y: 0, z: 0 },
      above: { x: 0, y: 1, z: 0 },
      turn: 0,
    },
  ],
  passes,
  lapCares: [],
  laps: [{ pass: 'cut', texts: ['Fast, with plenty of water.'], leaves: 60 }],
  readWell: [],
  lineUp: [],
  visiting: 'written',
  girdleSpare: 0,
  calipers: [{ tier: 'G1', mm: 8, flats: true }],
  layer: [],
  mounts: [],
  facets: [
    benchFacetOf(),
    benchFacetOf({ id: 'f2', dial: dialled(48) }),
    benchFacetOf({ id: 'f3', reading: 41.5, angle: 41.2, dial: dialled(24) }),
    benchFacetOf({ id: 'f4', tier: 'C1', part: 'crown', setup: 1 }),
  ],
  visits: [
    benchVisitOf(0, { block: 0, roundEnd: 2, blockEnd: 3 }),
    benchVisitOf(1, { block: 0, roundEnd: 2, blockEnd: 3 }),
    benchVisitOf(2, { block: 0, roundEnd: 3, blockEnd: 3 }),
    benchVisitOf(3, { block: 1, setup: 's2' }),
  ],
  checks: [
    {
      gate: 'transfer',
      setup: '',
      from: '',
      item: 'key',
      text: 'The key of the dop sits in its notch.',
      minutes: 0,
      caution: '',
    },
    {
      gate: 'transfer',
      setup: '',
      from: '',
      item: 'clean',
      text: 'Both dops are clean.',
      minutes: 0,
      caution: '',
    },
  ],
  cautions: [],
  levels: {
    bottom: -1,
    top: 1,
    girdleLow: -0.1,
    girdleHigh: 0.1,
    hasGirdle: true,
    girdle: null,
  },
  mesh: cube,
  wheel: [],
  ...change,
});

export const usual: Usual = {
  gear: 96,
  gears: [64, 96],
  refractiveIndex: 1.54,
  material: 'Quartz',
  width: 8,
  lightModel: 'head',
  headAngle: 16,
  allowance: 0.3,
  kerf: 0.4,
};

export const machineOf = (change: Partial<Machine> = {}): Machine => ({
  id: 'm1',
  name: 'The wheel by the window',
  gears: [64, 96],
  setting: 'protractor',
  pegs: [],
  holes: [],
  angleStep: 0.5,
  angleLow: -2,
  angleHigh: 100,
  angleZero: 0,
  repeatability: 0.05,
  cheater: 'degrees',
  cheatPerTurn: 0,
  tableAdapter: 45,
  quillMM: 0,
  reachMM: 0,
  heightStep: 0.02,
  heightSense: 'lowers',
  ...change,
});

export const habitsOf = (change: Partial<Habits> = {}): Habits => ({
  id: 'h1',
  name: 'Evenings',
  tick: 'facet',
  long: 'across',
  allowance: 0.3,
  kerf: 0.4,
  preform: { side: 0.3, foot: 0.3, under: 1 },
  passes,
  uses: [],
  holds: [],
  firstSide: 'drawn',
  girdle: 'drawn',
  table: 'drawn',
  tableAt: 'through',
  visiting: 'written',
  turning: 'whole',
  girdleSpare: 0,
  ...change,
});

export const settingsOf = (change: Partial<Settings> = {}): Settings => ({
  version: 3,
  answered: true,
  machine: 'm1',
  habit: 'h1',
  materials: [],
  machines: [machineOf()],
  habits: [habitsOf()],
  abrasives: {
    damageLow: 2,
    damageHigh: 3,
    cutRatio: 5,
    polishRatio: 25,
    softBelow: 5,
    smearBelow: 4,
    coarser: 1.5,
  },
  prices: [],
  ...change,
});

export const choicesOf = (change: Partial<Choices> = {}): Choices => ({
  material: 'Sphene',
  machine: 'm1',
  gear: 96,
  firstSide: 'pavilion',
  passes,
  uses: [],
  holds: [],
  size: { mm: 8, typed: '8', basis: 'width', tier: '' },
  girdle: 'drawn',
  table: 'drawn',
  tableAt: 'through',
  visiting: 'written',
  turning: 'whole',
  girdleSpare: 0,
  cheats: { from: 'nearest', skip: [] },
  dopUps: [],
  ...change,
});

export const stoneOf = (change: Partial<StoneLine> = {}): StoneLine => ({
  id: 'a',
  workId: 'w1',
  task: 'first-cut',
  number: 7,
  version: 5,
  name: 'Sphene for the fire-lane telescope',
  diagram: 'Spiral Arm',
  material: 'Sphene',
  state: 'planned',
  done: 0,
  skipped: 0,
  all: 93,
  late: 0,
  sizeMM: 5.5,
  hours: 0,
  picture: '',
  run: '',
  runPlace: 0,
  promised: '',
  cures: null,
  finish: null,
  created: '2026-03-01T10:00:00Z',
  lastEvent: '2026-03-02T10:00:00Z',
  ...change,
});

const intakeOf = (change: Partial<Intake> = {}): Intake => ({
  owner: 'Ms. Averill',
  material: 'Aquamarine',
  carats: 2.1,
  promised: '',
  widthMM: 8.02,
  lengthMM: 8.05,
  heightMM: 5.3,
  damage: 'a chip at the girdle',
  agreed: 'cut the chip out',
  ...change,
});

export const repairOf = (change: Partial<StoneLine> = {}): RepairPage => {
  const summary = stoneOf({
    task: 'repair',
    name: 'Ring stone',
    diagram: '',
    all: 0,
    ...change,
  });
  const { workId: id, task, created } = summary;
  const works = [{ id, task: task as 'repair', created, finished: '' }];
  return { summary, intake: intakeOf(), photos: [], history: [], works };
};

/** A stone that was cut as planned, but for one facet. */
export const asCutOf = (change: Partial<AsCut> = {}): AsCut => ({
  facetsCut: 1,
  facetsAsked: 1,
  planned: cube,
  cut: cube,
  next: null,
  levels: { bottom: -1, top: 0.5, hasGirdle: false, girdleLow: 0, girdleHigh: 0, girdle: null },
  up: 'crown',
  told: '',
  differences: [
    { what: 'overcut', tier: 'P1', tooth: 12, text: 'cut too deep, by 0.05 mm', faces: [0] },
  ],
  meant: { carats: 2.5, width: 8, length: 8, height: 5, girdleMin: 0.2, girdleMax: 0.2 },
  coming: { carats: 2.4, width: 8, length: 8, height: 5, girdleMin: 0.1, girdleMax: 0.2 },
  gap: 120,
  hours: [{ side: 'pavilion', pass: 'Cut', hours: 1.5 }],
  ...change,
});
