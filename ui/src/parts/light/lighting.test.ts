import { expect, test } from 'vitest';
import { faceUp, polar, tilted } from './lighting';

test('a tilt is an angle and the side that it goes to, clockwise from 12', () => {
  expect(polar(faceUp)).toMatchObject({ tilt: 0 });
  expect(polar({ three: 0, twelve: 10 })).toEqual({ tilt: 10, to: 0 });
  expect(polar({ three: 10, twelve: 0 })).toEqual({ tilt: 10, to: 90 });
  expect(polar({ three: -10, twelve: 0 })).toEqual({ tilt: 10, to: 270 });
  const back = polar({ three: 3, twelve: -4 });
  expect(back.tilt).toBeCloseTo(5, 9);
  expect(back.to).toBeCloseTo(180 - 36.8699, 3);
});

test('a stone is tilted as far as it goes and no farther, and keeps its side', () => {
  let tilt = faceUp;
  for (let i = 0; i < 100; i++) tilt = tilted(tilt, 3, 4);
  expect(polar(tilt).tilt).toBeCloseTo(60, 9);
  expect(tilt.twelve / tilt.three).toBeCloseTo(4 / 3, 9);
  // From there it comes back at once.
  expect(polar(tilted(tilt, -3, -4)).tilt).toBeCloseTo(55, 9);
});
