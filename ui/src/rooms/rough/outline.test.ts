import { expect, test } from 'vitest';
import { cornersOf, nextClick } from './outline';

test('corners are told from the quill’s axis, whichever way the photo is turned', () => {
  // A box of 6 by 5 mm on a dop that is 6 mm wide, at 10 pixels a mm, drawn upright.
  const upright: [number, number][] = [
    [100, 200], // the middle of the dop's face
    [100, 100], // above it
    [70, 200], // the dop's width
    [130, 200],
    [70, 200],
    [130, 200],
    [130, 150],
    [70, 150],
  ];
  const box = [-3, 0, 3, 0, 3, 5, -3, 5];
  cornersOf({ points: upright }, 6)!.forEach((v, i) => expect(v).toBeCloseTo(box[i]!));
  const turn = (degrees: number) =>
    upright.map(([x, y]): [number, number] => {
      const a = (degrees * Math.PI) / 180;
      return [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)];
    });
  for (const degrees of [90, 180, 203])
    cornersOf({ points: turn(degrees) }, 6)!.forEach((v, i) => expect(v).toBeCloseTo(box[i]!));
});

test('what is clicked is asked for in order, and without axis, length or corners there is no outline', () => {
  expect([0, 1, 2, 3, 4, 9].map(nextClick)).toEqual([
    'foot',
    'axis',
    'from',
    'to',
    'corners',
    'corners',
  ]);
  const some: [number, number][] = [
    [0, 0],
    [0, -9],
    [0, 0],
    [6, 0],
    [1, 1],
    [2, 2],
  ];
  expect(cornersOf({ points: some }, 6)).toBeUndefined();
  const flat: [number, number][] = [...some.slice(0, 1), [0, 0], ...some.slice(2), [3, 1]];
  expect(cornersOf({ points: flat }, 6)).toBeUndefined();
  expect(cornersOf({ points: [...some, [3, 1]] }, 0)).toBeUndefined();
});
