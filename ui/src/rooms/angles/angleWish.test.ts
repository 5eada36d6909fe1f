import { expect, test } from 'vitest';
import { draftOf } from '../../testing/records';
import { bodyOf, firstWish, moves } from './angleWish';

const draft = draftOf({ refractiveIndex: '1,54' });
const first = firstWish(draft, 0.1, 8);

test('at first the angles stay and are only rounded to the machine', () => {
  expect(moves(draft, first)).toBe(false);
  expect(bodyOf(draft, first)).toMatchObject({ target: null, step: 0.1, search: true, width: 8 });
});

test.each([
  ['another index', { index: 1.57 }, { refractiveIndex: 1.57, margin: null }],
  ['a margin', { margin: 2 }, { refractiveIndex: 1.54, margin: 2 }],
  ['a factor of its own', { crown: 'own', factor: 0.9 } as const, { crownFactor: 0.9 }],
  ['with the crown', { index: 1.57, crown: 'with' } as const, { crownWithPavilion: true }],
])('the angles are moved for %s', (_, change, target) => {
  expect(bodyOf(draft, { ...first, ...change }).target).toMatchObject(target);
});

test('a factor that is typed and then not used moves nothing', () => {
  const wish = { ...first, index: 1.57, crown: 'stay' as const, factor: 0.7 };
  expect(bodyOf(draft, wish).target).toMatchObject({ crownFactor: 1, crownWithPavilion: false });
  expect(moves(draft, { ...first, factor: 0.7 })).toBe(false);
});

test('an index that cannot be read asks for one that can, so that the draft is what is refused', () => {
  expect(firstWish(draftOf({ refractiveIndex: 'glass' }), 0, 8).index).toBeGreaterThan(1);
});
