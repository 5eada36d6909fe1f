import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { keysOf, taught } from './useHands';
import { useSplashGuard } from './useSplashGuard';

afterEach(cleanup);

test('a key that is learned does that alone, and the others keep theirs', () => {
  let pedal = taught({}, 'done', 'b');
  pedal = taught(pedal, 'back', 'PageDown');
  expect(keysOf(pedal, 'done')).toEqual(['b', 'Enter', ' ', 'ArrowRight']);
  expect(keysOf(pedal, 'back')).toEqual(['PageDown', 'Backspace', 'ArrowLeft', 'PageUp']);
  // Taught anew, it leaves what it did before.
  pedal = taught(pedal, 'skip', 'b');
  expect(keysOf(pedal, 'done')).toEqual(['Enter', ' ', 'ArrowRight']);
});

/** A bench that is one button. */
function Guarded({ on, done, back }: { on: boolean; done: () => void; back: () => void }) {
  return (
    <div {...useSplashGuard(on, back)}>
      <button onClick={done}>Done</button>
    </div>
  );
}

/** A touch that is held for so many ms, and the click that the browser makes of it. */
function touch(ms: number, more: object = {}) {
  const button = screen.getByText('Done');
  const at = (timeStamp: number, type: string) => {
    const e = new Event(type, { bubbles: true, cancelable: true });
    Object.assign(e, { pointerId: 1, pointerType: 'touch', width: 20, height: 20, ...more });
    Object.defineProperty(e, 'timeStamp', { value: timeStamp });
    fireEvent(button, e);
  };
  at(1000, 'pointerdown');
  at(1000 + ms, 'pointerup');
  at(1000 + ms, 'click');
}

test('drops, a resting hand and a palm press nothing; a finger and a mouse do', () => {
  const done = vi.fn();
  const { rerender } = render(<Guarded on done={done} back={() => {}} />);
  touch(30);
  touch(5000);
  touch(200, { width: 160 });
  expect(done).not.toHaveBeenCalled();
  touch(200);
  expect(done).toHaveBeenCalledTimes(1);
  touch(30, { pointerType: 'mouse' });
  expect(done).toHaveBeenCalledTimes(2);
  rerender(<Guarded on={false} done={done} back={() => {}} />);
  touch(30);
  expect(done).toHaveBeenCalledTimes(3);
});

test('two fingers that are held go back', () => {
  vi.useFakeTimers();
  const [done, back] = [vi.fn(), vi.fn()];
  render(<Guarded on done={done} back={back} />);
  const button = screen.getByText('Done');
  for (const pointerId of [1, 2]) {
    const e = new Event('pointerdown', { bubbles: true });
    fireEvent(button, Object.assign(e, { pointerId, pointerType: 'touch', width: 9, height: 9 }));
  }
  vi.advanceTimersByTime(599);
  expect(back).not.toHaveBeenCalled();
  vi.advanceTimersByTime(2);
  expect(back).toHaveBeenCalledTimes(1);
  vi.useRealTimers();
});
