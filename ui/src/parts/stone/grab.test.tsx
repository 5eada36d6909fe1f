import { cleanup, fireEvent, render } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Mesh } from '../../api/client';
import { Themed } from '../../testing/themed';
import { StoneInTheRound } from './StoneInTheRound';

// A cube, its facets numbered from the one that looks upwards: enough to be grabbed and turned.
const corners = [-1, 1].flatMap((z) => [-1, 1].flatMap((y) => [-1, 1].map((x) => [x, y, z])));
const loops = [
  [4, 5, 7, 6],
  [0, 2, 3, 1],
  [0, 1, 5, 4],
  [1, 3, 7, 5],
  [3, 2, 6, 7],
  [2, 0, 4, 6],
];
const cube: Mesh = {
  vertices: corners.flat().map((v) => v / 2),
  steps: [{ facet: -1, gone: [], set: loops.map((loop, facet) => ({ facet, loop })) }],
};
const levels = {
  bottom: -0.5,
  girdleLow: 0,
  girdleHigh: 0,
  top: 0.5,
  hasGirdle: false,
  girdle: null,
};

beforeEach(() => {
  Element.prototype.setPointerCapture = vi.fn();
  // Without a layout one unit of the drawing is one pixel.
  Object.assign(SVGElement.prototype, { getScreenCTM: () => ({ inverse: () => 'identity' }) });
  vi.stubGlobal(
    'DOMPoint',
    class {
      constructor(
        readonly x: number,
        readonly y: number,
      ) {}
      matrixTransform = () => this;
    },
  );
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const at = (x: number, y: number, pointerId = 1) => ({
  clientX: x,
  clientY: y,
  pointerId,
  buttons: 1,
});

/** What is drawn, to tell whether it was turned. */
const drawn = (svg: Element) =>
  [...svg.querySelectorAll('polygon')].map((p) => p.getAttribute('points')).join();

function grabbed() {
  const grab = { facets: new Set([0]), start: vi.fn(), move: vi.fn(), end: vi.fn() };
  const { container } = render(<StoneInTheRound mesh={cube} levels={levels} grab={grab} />, {
    wrapper: Themed,
  });
  const svg = container.querySelector('svg')!;
  return { grab, svg, facet: svg.querySelector('[data-grab]')! };
}

test('pulling a plane moves the plane and leaves the stone as it stands', () => {
  const { grab, svg, facet } = grabbed();
  const before = drawn(svg);
  fireEvent.pointerDown(facet, at(0, 0));
  fireEvent.pointerMove(svg, at(0, -40));
  fireEvent.pointerMove(svg, at(0, -60));
  fireEvent.pointerUp(svg, at(0, -60));
  expect(grab.start).toHaveBeenCalledTimes(1);
  // The top looks upwards: upwards is outwards.
  expect(grab.move.mock.lastCall![0]).toBeGreaterThan(0);
  expect(grab.end).toHaveBeenCalledTimes(1);
  expect(drawn(svg)).toBe(before);
  fireEvent.pointerMove(svg, at(0, -90));
  expect(grab.move).toHaveBeenCalledTimes(2);
});

test('a drag beside the grabbed facet turns the stone, and a second finger does nothing', () => {
  const { grab, svg, facet } = grabbed();
  const before = drawn(svg);
  fireEvent.pointerDown(facet, at(0, 0));
  fireEvent.pointerMove(svg, at(0, 50, 2));
  expect(grab.move).not.toHaveBeenCalled();
  fireEvent.pointerCancel(svg, at(0, 0));
  expect(grab.end).not.toHaveBeenCalled();
  Object.defineProperty(svg, 'clientWidth', { value: 400 });
  fireEvent.pointerDown(svg, at(0, 0));
  fireEvent.pointerMove(svg, at(60, 0));
  expect(drawn(svg)).not.toBe(before);
});

test('a ring can be chosen by the keyboard', () => {
  const run = vi.fn();
  const rings = [{ at: [0, 0, 0.5] as const, label: '1: the corner', n: 1, chosen: false, run }];
  const { getByRole } = render(<StoneInTheRound mesh={cube} levels={levels} rings={rings} />, {
    wrapper: Themed,
  });
  const ring = getByRole('button', { name: '1: the corner' });
  expect(ring.getAttribute('tabindex')).toBe('0');
  fireEvent.keyDown(ring, { key: 'Enter' });
  fireEvent.click(ring);
  expect(run).toHaveBeenCalledTimes(2);
});
