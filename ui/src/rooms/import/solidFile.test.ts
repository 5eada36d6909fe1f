import { expect, test } from 'vitest';
import type { Usual } from '../../api/client';
import { isSolid, openSolid } from './solidFile';

test.each([
  ['die.stl', true],
  ['DIE.OBJ', true],
  ['a.b.ply', true],
  ['stl', false],
  ['meridian.cressa.json', false],
  ['die.stl.txt', false],
])('%s is told by its ending: %s', (name, solid) => {
  expect(isSolid(name)).toBe(solid);
});

test('a file comes whole, held by its own z, on the usual gear', async () => {
  const bytes = Uint8Array.from({ length: 300 }, (_, i) => i % 256);
  const usual = { gear: 80, refractiveIndex: 1.54 } as Usual;
  const solid = await openSolid(new File([bytes], 'Twenty for the raffle.stl'), usual);
  expect(solid).toMatchObject({
    name: 'Twenty for the raffle',
    up: { x: 0, y: 0, z: 1 },
    centroid: false,
    apart: false,
    gear: 80,
    refractiveIndex: 1.54,
  });
  expect(Uint8Array.from(atob(solid.data), (c) => c.charCodeAt(0))).toEqual(bytes);
});
