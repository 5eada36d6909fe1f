import { expect, it } from 'vitest';
import type { LiveReading } from '../../../api/client';
import type { Quantity } from '../../../live/live';
import { scriptOf } from '../../../testing/records';
import { compareAngle, compareIndex, toKeep } from './compare';

const reading = (quantity: Quantity, value: number, held = false): LiveReading => ({
  instrument: 'mast',
  quantity,
  value,
  raw: value,
  held,
});

const facet = {
  ...scriptOf().facets[0]!,
  reading: 42,
  dial: { ...scriptOf().facets[0]!.dial, tooth: 96, cheat: 0.75 },
};

it('says how far a dial is off, the shorter way round the gear and with the cheat', () => {
  expect(compareAngle(reading('angle', 41.7), facet)).toMatchObject({ there: false });
  expect(compareAngle(reading('angle', 41.7), facet)!.off).toBeCloseTo(-0.3);
  expect(compareAngle(reading('angle', 42.04, true), facet)).toMatchObject({
    there: true,
    held: true,
  });
  // 0.75° on 96 teeth are a fifth of a tooth past 96.
  expect(compareIndex(reading('index', 0.2), facet, 96)).toMatchObject({ there: true });
  expect(compareIndex(reading('index', 95.2), facet, 96).off).toBeCloseTo(-1);
});

it('keeps what the dials show only where quill and gear stand as they should', () => {
  const all = (...list: LiveReading[]) => new Map(list.map((r) => [r.quantity, r]));
  const at = [reading('angle', 42), reading('index', 0.2), reading('height', 48.16)] as const;
  expect(toKeep(all(...at), facet, 96)).toEqual({ angle: 42, index: 0.2, height: 48.16 });
  expect(toKeep(all(at[0], reading('index', 4), at[2]), facet, 96)).toBeUndefined();
  expect(toKeep(all(reading('angle', 57), at[1], at[2]), facet, 96)).toBeUndefined();
  // Without a protractor's dial a height counts once it stands still.
  expect(toKeep(all(at[2]), facet, 96)).toBeUndefined();
  expect(toKeep(all(reading('height', 48.16, true)), facet, 96)).toEqual({ height: 48.16 });
  expect(toKeep(new Map(), facet, 96)).toBeUndefined();
});
