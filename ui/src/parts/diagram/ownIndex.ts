import type { Draft } from '../../api/client';
import { ranges } from '../../api/ranges';
import { parseNumber } from '../../words/numbers';

/**
 * The refractive index that a draft is drawn for. With one that cannot be read the draft itself is
 * refused; the least that can be asked for stands in its place.
 */
export const ownIndex = (draft: Draft): number =>
  parseNumber(draft.refractiveIndex) ?? ranges.LookRequest.refractiveIndex.min;
