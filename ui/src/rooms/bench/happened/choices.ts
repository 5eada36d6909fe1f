import type { BenchScript } from '../../../api/client';
import type { What } from '../../../log/events';

/** The figure that is asked of what happened. */
export type Asked = 'depth' | 'teeth' | 'degrees' | 'cheat' | 'lap' | 'compound' | 'picture' | '';

export interface Choice {
  what: What;
  /** The key that chooses it, anywhere at the bench. */
  key: string;
  asks: Asked;
  /** It happens to a facet. */
  atFacet: boolean;
  /** Ways out of it are reckoned. */
  mends?: boolean;
  /** It goes into the stone, so it can be pointed at. */
  inside?: boolean;
}

/** What can happen at the wheel, in the order of its keys. */
export const choices: readonly Choice[] = [
  { what: 'overcut', key: '1', asks: 'depth', atFacet: true, mends: true },
  { what: 'chip', key: '2', asks: 'depth', atFacet: true, mends: true, inside: true },
  { what: 'flaw', key: '3', asks: 'depth', atFacet: true, mends: true, inside: true },
  { what: 'pit', key: '4', asks: 'depth', atFacet: true, mends: true, inside: true },
  { what: 'wrong-index', key: '5', asks: 'teeth', atFacet: true, mends: true },
  { what: 'wrong-angle', key: '6', asks: 'degrees', atFacet: true, mends: true },
  { what: 'cheater', key: '7', asks: 'cheat', atFacet: true },
  { what: 'lap-charged', key: '8', asks: 'compound', atFacet: false },
  { what: 'lap-changed', key: '9', asks: 'lap', atFacet: false },
  { what: 'bond-failed', key: '0', asks: '', atFacet: false },
  { what: 'compound', key: 'k', asks: 'compound', atFacet: false },
  { what: 'photo', key: 'f', asks: 'picture', atFacet: true },
];

/** Depths in mm that are often meant, one tap each. */
export const usualDepths = [0.02, 0.05, 0.1, 0.2];

/** What a depth along a facet takes off the girdle in mm, undefined where it does not run down to it. */
export function girdleOf(facet: BenchScript['facets'][number], mm: number): number | undefined {
  const t = (facet.angle * Math.PI) / 180;
  return facet.angle > 0 && facet.angle < 90 ? mm / Math.cos(t) : undefined;
}
