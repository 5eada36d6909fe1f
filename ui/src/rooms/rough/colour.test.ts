import { expect, test } from 'vitest';
import { absorptionOf, colourOf } from './colour';

test('a colour that is chosen comes back as it was', () => {
  for (const colour of ['#ffffff', '#8a6bc4', '#102030', '#7f7f7f']) {
    expect(colourOf(absorptionOf(colour))).toBe(colour);
  }
  expect(absorptionOf('#ffffff')).toEqual([0, 0, 0]);
  // Half as bright to the eye is a fifth of the light: 10 mm at 0.154 leave that.
  expect(absorptionOf('#7f7f7f')[0]).toBeCloseTo(0.154, 2);
  expect(absorptionOf('#000000')[0]).toBeCloseTo(0.62, 2);
});
