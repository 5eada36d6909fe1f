import type { AnglesTarget, Draft } from '../../api/client';
import type { AnglesBody } from '../../api/solving';
import { ownIndex } from '../../parts/diagram/ownIndex';

/** What is asked of the angles. */
export interface AngleWish {
  /** A material's name, '' for an index of one's own. */
  material: string;
  index: number;
  /** Null keeps the shallowest tier's own margin. */
  margin: number | null;
  crown: 'stay' | 'with' | 'own';
  factor: number;
  /** In degrees, 0 for not at all. */
  step: number;
  search: 'best' | 'nearest';
  width: number;
}

/** At first the angles stay where they are and are rounded to the machine. */
export const firstWish = (draft: Draft, step: number, width: number): AngleWish => ({
  material: '',
  index: ownIndex(draft),
  margin: null,
  crown: 'stay',
  factor: 1,
  step,
  search: 'best',
  width,
});

/** Whether the angles are to suit something else than they do. */
export const moves = (draft: Draft, wish: AngleWish): boolean =>
  wish.index !== ownIndex(draft) || wish.margin !== null || wish.crown === 'own';

/** The request for a wish. */
export function bodyOf(draft: Draft, wish: AngleWish): AnglesBody {
  const target: AnglesTarget | null = moves(draft, wish)
    ? {
        refractiveIndex: wish.index,
        margin: wish.margin,
        crownFactor: wish.crown === 'own' ? wish.factor : 1,
        crownWithPavilion: wish.crown === 'with',
      }
    : null;
  return {
    draft,
    target,
    step: wish.step,
    search: wish.search === 'best',
    width: wish.width,
    material: wish.material,
  };
}
