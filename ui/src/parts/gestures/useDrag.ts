import { useRef, type PointerEvent } from 'react';

interface Steps {
  /** Where the pointer was put down. False leaves the gesture to others. */
  begin?: (e: PointerEvent<Element>) => boolean;
  /** How far the pointer has gone since the last call, in CSS px. */
  move: (x: number, y: number, e: PointerEvent<Element>) => void;
  end?: () => void;
}

/** A pointer that has gone less far than this, in CSS px, has clicked. */
const slack = 3;

/**
 * Handlers that follow one pointer from where it was put down on an element until it is lifted,
 * wherever it goes. The element takes the pointer only once it moves, so that what lies in it can
 * still be clicked. A second finger changes nothing.
 */
export function useDrag({ begin, move, end }: Steps) {
  const held = useRef<{ id: number; x: number; y: number; moving: boolean }>(undefined);
  const over = (e: PointerEvent<Element>) => {
    if (e.pointerId !== held.current?.id) return;
    const { moving } = held.current;
    held.current = undefined;
    if (moving) end?.();
  };
  return {
    onPointerDown: (e: PointerEvent<Element>) => {
      if (e.button !== 0 || held.current || begin?.(e) === false) return;
      held.current = { id: e.pointerId, x: e.clientX, y: e.clientY, moving: false };
    },
    onPointerMove: (e: PointerEvent<Element>) => {
      const h = held.current;
      if (e.pointerId !== h?.id) return;
      // The button was lifted where nobody told of it.
      if (e.buttons === 0) return over(e);
      const [x, y] = [e.clientX - h.x, e.clientY - h.y];
      if (!h.moving && Math.hypot(x, y) < slack) return;
      if (!h.moving) e.currentTarget.setPointerCapture(e.pointerId);
      held.current = { id: h.id, x: e.clientX, y: e.clientY, moving: true };
      move(x, y, e);
    },
    onPointerUp: over,
    onPointerCancel: over,
    onLostPointerCapture: over,
  };
}

/** Where a pointer is in an element: shares of its width from the left and of its height from the top. */
export function shareIn(
  element: Element,
  e: { clientX: number; clientY: number },
): [number, number] {
  const box = element.getBoundingClientRect();
  return [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height];
}

/** Which way an arrow key points: 1 to the right or up, −1 to the left or down. */
export function arrowOf(key: string): { right: number; up: number } | undefined {
  const arrows: Record<string, { right: number; up: number }> = {
    ArrowLeft: { right: -1, up: 0 },
    ArrowRight: { right: 1, up: 0 },
    ArrowUp: { right: 0, up: 1 },
    ArrowDown: { right: 0, up: -1 },
  };
  return arrows[key];
}
