import type { Diagram, Draft, DraftTier } from '../api/client';

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
