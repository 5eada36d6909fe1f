import { beforeEach, describe, expect, test, vi } from 'vitest';
import {
  angle,
  carats,
  clock,
  date,
  dayOf,
  duration,
  mm,
  parseNumber,
  plain,
  signed,
  sizes,
  um,
} from './numbers';

describe.each([
  ['en-GB', '.'],
  ['de-DE', ','],
])('in %s', (language, point) => {
  beforeEach(() => void vi.spyOn(navigator, 'language', 'get').mockReturnValue(language));
  const here = (text: string) => text.replaceAll('.', point);

  test('figures are written with the decimal sign of the language, and never grouped', () => {
    expect(mm(8)).toBe(here('8.00 mm'));
    expect(plain(1234.5)).toBe(here('1234.5'));
    expect(angle(41.256)).toBe(here('41.26'));
    expect(signed(-1.5)).toBe(here('−1.5'));
    expect(signed(0)).toBe('0');
    expect(sizes(8, 0, 5.125)).toBe(here('8.00 × 5.13 mm'));
    expect(sizes(0, 0)).toBe('–');
  });

  test('small stones are told to a thousandth of a carat', () => {
    expect(carats(0.9994)).toBe(here('0.999 ct'));
    expect(carats(1)).toBe(here('1.00 ct'));
  });

  test('what is written can be read again', () => {
    for (const v of [0, -3.25, 0.000001, 41.95, 1234.5]) expect(parseNumber(plain(v))).toBe(v);
  });
});

test('a number is read with a point or a comma, and nothing else is one', () => {
  expect(parseNumber(' 41,95 ')).toBe(41.95);
  expect(parseNumber('1e3')).toBe(1000);
  for (const text of ['', ' ', '4 1', '1.234,5', '41°', 'Infinity', 'none'])
    expect(parseNumber(text)).toBeUndefined();
});

test('errors, clocks and times take the unit that can be read', () => {
  vi.spyOn(navigator, 'language', 'get').mockReturnValue('en-GB');
  expect([um(0.44), um(9.96), um(12.4), um(1500)]).toEqual(['0.4 µm', '10 µm', '12 µm', '1.50 mm']);
  expect(clock(3_725_999)).toBe('1:02:05');
  expect([duration(59.4), duration(60), duration(135)]).toEqual([
    '59 min',
    '1 h 0 min',
    '2 h 15 min',
  ]);
});

test('a day is that of the person who looks, not that of Greenwich', () => {
  expect(date('2026-03-02T05:30:00Z')).toBe('2026-03-01');
  expect(date('2026-03-02T17:30:00Z')).toBe('2026-03-02');
  expect(date(new Date(2026, 10, 5, 23, 59))).toBe('2026-11-05');
});

test('a day of a record is written as people do here, and what is no day as it was typed', () => {
  vi.spyOn(navigator, 'language', 'get').mockReturnValue('en-GB');
  expect(dayOf('2026-03-04')).toBe('4 Mar 2026');
  expect(dayOf('in spring')).toBe('in spring');
});
