import { expect, test } from 'vitest';
import fixtures from './heights.fixtures.json';
import { foretell, isStrange } from './heights';

test.each(fixtures.map((f, i) => ({ ...f, i })))(
  'the bench foretells as the server does: $i',
  ({ readings, asked, want }) => {
    const told = foretell(readings, asked);
    expect(told === undefined).toBe(want === null);
    if (!told || !want) return;
    expect(told.mm).toBeCloseTo(want.mm, 5);
    expect(told.sd).toBeCloseTo(want.sd, 5);
    expect(isStrange(asked.mm, told)).toBe(want.strange);
  },
);
