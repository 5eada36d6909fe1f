import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { arrowOf, useDrag } from './useDrag';
import { useOrbit } from './useOrbit';

const capture = vi.fn();
beforeEach(() => {
  capture.mockClear();
  // jsdom has no pointer capture.
  Element.prototype.setPointerCapture = capture;
});
afterEach(cleanup);

const move = vi.fn();
const end = vi.fn();
const begin = vi.fn(() => true);
beforeEach(() => [move, end, begin].forEach((f) => f.mockClear()));

function Dragged({ onClick }: { onClick?: () => void }) {
  const drag = useDrag({ begin, move, end });
  return (
    <div data-testid="box" {...drag}>
      <button onClick={onClick}>inside</button>
    </div>
  );
}

const at = (x: number, y = 0, pointerId = 1) => ({ clientX: x, clientY: y, pointerId, buttons: 1 });

test('a drag tells how far it went since it told last, and ends once', () => {
  render(<Dragged />);
  const box = screen.getByTestId('box');
  fireEvent.pointerDown(box, at(10, 10));
  fireEvent.pointerMove(box, at(20, 10));
  fireEvent.pointerMove(box, at(25, 4));
  fireEvent.pointerUp(box, at(25, 4));
  fireEvent.lostPointerCapture(box, at(25, 4));
  expect(move.mock.calls.map(([x, y]) => [x, y])).toEqual([
    [10, 0],
    [5, -6],
  ]);
  expect(end).toHaveBeenCalledTimes(1);
  fireEvent.pointerMove(box, at(90));
  expect(move).toHaveBeenCalledTimes(2);
});

test('a click is no drag: the pointer is taken only once it moves', () => {
  const clicked = vi.fn();
  render(<Dragged onClick={clicked} />);
  const inside = screen.getByText('inside');
  fireEvent.pointerDown(inside, at(10));
  fireEvent.pointerMove(inside, at(12));
  fireEvent.pointerUp(inside, at(12));
  fireEvent.click(inside);
  expect(clicked).toHaveBeenCalled();
  expect([capture, move, end].map((f) => f.mock.calls.length)).toEqual([0, 0, 0]);
});

test('a second finger, another button and a refused beginning change nothing', () => {
  render(<Dragged />);
  const box = screen.getByTestId('box');
  fireEvent.pointerDown(box, { ...at(10), button: 2 });
  begin.mockReturnValueOnce(false);
  fireEvent.pointerDown(box, at(10));
  fireEvent.pointerMove(box, at(50));
  expect(move).not.toHaveBeenCalled();
  fireEvent.pointerDown(box, at(10));
  fireEvent.pointerDown(box, at(70, 0, 2));
  fireEvent.pointerMove(box, at(80, 0, 2));
  fireEvent.pointerUp(box, at(80, 0, 2));
  fireEvent.pointerMove(box, at(30));
  expect(move.mock.calls.map(([x]) => x)).toEqual([20]);
  expect(end).not.toHaveBeenCalled();
});

test('a button that was lifted where nobody told of it ends the drag', () => {
  render(<Dragged />);
  const box = screen.getByTestId('box');
  fireEvent.pointerDown(box, at(10));
  fireEvent.pointerMove(box, at(30));
  fireEvent.pointerMove(box, { ...at(60), buttons: 0 });
  expect(move).toHaveBeenCalledTimes(1);
  expect(end).toHaveBeenCalledTimes(1);
});

test('arrows turn what is seen as a drag to that side does', () => {
  const turn = vi.fn();
  const home = vi.fn();
  const zoom = vi.fn();
  function Turned() {
    return <div data-testid="globe" {...useOrbit({ turn, across: 4, step: 0.1, home, zoom })} />;
  }
  render(<Turned />);
  const globe = screen.getByTestId('globe');
  Object.defineProperty(globe, 'clientWidth', { value: 400 });
  fireEvent.pointerDown(globe, at(0));
  fireEvent.pointerMove(globe, at(100, -50));
  expect(turn).toHaveBeenLastCalledWith(1, -0.5);
  for (const [key, right, down] of [
    ['ArrowRight', 0.1, 0],
    ['ArrowUp', 0, -0.1],
  ] as const) {
    fireEvent.keyDown(globe, { key });
    const [r, d] = turn.mock.lastCall!;
    expect([r, d].map((v) => v + 0)).toEqual([right, down]);
  }
  expect(fireEvent.keyDown(globe, { key: 'Home' })).toBe(false);
  expect(home).toHaveBeenCalled();
  fireEvent.keyDown(globe, { key: '+' });
  fireEvent.keyDown(globe, { key: '-' });
  expect(zoom.mock.calls).toEqual([[1.25], [0.8]]);
  // What is not its own is left to the screen.
  expect(fireEvent.keyDown(globe, { key: 'n' })).toBe(true);
  expect(arrowOf('PageUp')).toBeUndefined();
});
