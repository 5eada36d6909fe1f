import { afterEach, expect, test } from 'vitest';
import { keepPrices, pricesOf, valueOf } from './prices';

afterEach(() => localStorage.clear());

test('a stone is worth what a carat brings at its weight, whatever order the prices were typed in', () => {
  const prices = [
    { from: 3, carat: 90 },
    { from: 0.5, carat: 40 },
  ];
  expect(valueOf(0.4, prices)).toBeUndefined();
  expect(valueOf(2, prices)).toBe(80);
  expect(valueOf(3, prices)).toBe(270);
  expect(valueOf(2, [])).toBeUndefined();
});

test('prices are remembered for each material, and what cannot be read is none', () => {
  keepPrices('Peridot', [{ from: 0, carat: 40 }]);
  expect(pricesOf('Peridot')).toEqual([{ from: 0, carat: 40 }]);
  expect(pricesOf('Spinel')).toEqual([]);
  keepPrices('Peridot', []);
  expect(pricesOf('Peridot')).toEqual([]);
  localStorage.setItem('cressa-prices/Spinel', '[{"from": "x"}, 3]');
  expect(pricesOf('Spinel')).toEqual([]);
  localStorage.setItem('cressa-prices/Spinel', 'no');
  expect(pricesOf('Spinel')).toEqual([]);
});
