import type { Candidate, Piece } from '../api/rough';
import { cube } from './cube';

/** A piece of rough as the server tells of it. */

/** A candidate of the piece. */
export const candidate: Candidate = {
  id: 'c',
  diagram: 'd',
  revision: 'hash',
  name: 'Meridian',
  allowance: 0.3,
  width: 8.456,
  length: 11,
  height: 6,
  carat: 4,
  yield: 0.3,
  bound: 9,
  place: { scale: 1, rotation: [1, 0, 0, 0, 1, 0, 0, 0, 1], offset: [0, 0, 0] },
  limitedBy: [
    { kind: 'flaw', name: 'veil' },
    { kind: 'face', name: '+x' },
    { kind: 'face', name: '-x' },
  ],
  costs: [],
  stale: false,
  rounds: 1,
  made: '2026-11-29T10:00:00Z',
  chosen: false,
  why: '',
  worth: null,
};

/** A block with a flaw and a candidate. */
export const piece = (change: Partial<Piece> = {}): Piece => ({
  id: 'p',
  number: 4,
  parcel: '',
  parent: '',
  survey: null,
  weighed: '12',
  unit: 'ct',
  along: '',
  across: '',
  seen: [],
  fate: 'whole',
  rough: {
    name: 'block',
    material: 'Peridot',
    note: '',
    solid: { kind: 'box', size: { x: 2, y: 2, z: 2 }, points: [] },
    trims: [],
    flaws: [
      {
        name: 'veil',
        kind: 'ball',
        at: { x: 0.5, y: 0, z: 0 },
        radius: 0.2,
        normal: { x: 0, y: 0, z: 1 },
        rule: 'out',
      },
    ],
    axis: null,
    colour: null,
  },
  version: 3,
  carats: 12,
  cost: 0,
  currency: '',
  parcelName: '',
  worked: { whole: cube, kept: cube, wholeCarats: 12, keptCarats: 12, off: 0, care: '', cuts: [] },
  candidates: [candidate],
  parentNumber: 0,
  offcuts: [],
  stones: [],
  photos: [],
  ...change,
});
