import { expect, test } from 'vitest';
import { settingOf } from './setting';

test('facets go evenly round the gear from the index that is dialled', () => {
  const of = (index: number | undefined, times: number, gear = 96) =>
    settingOf({ up: 'crown', angle: 30, index, times }, gear)?.indexes;
  expect(of(96, 4)).toEqual([96, 24, 48, 72]);
  expect(of(90, 3)).toEqual([90, 26, 58]);
  expect(of(3, 1)).toEqual([3]);
  // Between teeth, where the gear does not go so often.
  expect(of(80, 3, 80)).toEqual([80, 26.666666667, 53.333333333]);
  expect(of(0, 2)).toEqual([96, 48]);
  expect(of(97, 1)).toBeUndefined();
  expect(of(undefined, 1)).toBeUndefined();
});
