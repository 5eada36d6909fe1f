import type { BenchScript, Diagram, Draft, DraftTier } from '../api/client';
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
  facts: null,
  ...change,
});

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
  division: null,
  stop: 'to the centre',
  note: '',
  target: { x: 0, y: 0, z: 0 },
  ...change,
});

/** A visit in the first pass, which is alone in its round and tier. */
const benchVisitOf = (i: number, change: Partial<BenchVisit> = {}): BenchVisit => ({
  setup: 's1',
  pass: 'cut',
  facet: i,
  block: i,
  blockEnd: i + 1,
  roundEnd: i + 1,
  minutes: 2,
  now: 0,
  after: 1,
  move: { first: i === 0, pass: false, from: null, teeth: 0 },
  ...change,
});

const dialled = (tooth: number) => ({ tooth, cheat: 0, cheatTurns: 0, azimuth: 0 });

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
    { id: 's1', up: 'pavilion', turn: 0 },
    { id: 's2', up: 'crown', turn: 0 },
  ],
  passes: [{ id: 'cut', name: 'Cut', lap: '600' }],
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
    { item: 'key', text: 'The key of the dop sits in its notch.' },
    { item: 'clean', text: 'Both dops are clean.' },
  ],
  cautions: [],
  levels: { bottom: -1, top: 1, girdleLow: -0.1, girdleHigh: 0.1, hasGirdle: true },
  mesh: cube,
  wheel: [],
  ...change,
});
