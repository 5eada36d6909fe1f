import type { BenchScript } from '../../api/client';
import { w } from '../../words/words';
import { vec, type Camera, type Side } from './geometry';

type Setup = BenchScript['setups'][number];

const seen = new WeakMap<Setup, Camera>();

/** What faces the eye in a setup: a side, or the facet that a solid is held with facing up. */
export function upOf(setup: Setup): Side | Camera {
  if (setup.up !== '') return setup.up as Side;
  // The same object each time, so that a drawing is not drawn anew.
  const kept = seen.get(setup) ?? { right: vec(setup.right), up: vec(setup.above) };
  seen.set(setup, kept);
  return kept;
}

/** What is up in a setup, in words. */
export const upName = (setup: Setup): string =>
  setup.up === '' ? setup.name : w.drawing[setup.up as Side];
