import type { KeyboardEvent } from 'react';
import { arrowOf, useDrag } from './useDrag';

interface Orbit {
  /** Turns what is seen, to the right and downwards. */
  turn: (right: number, down: number) => void;
  /** How far a drag across the whole width turns it. */
  across: number;
  /** How far an arrow key turns it. */
  step: number;
  /** Returns to the first view. */
  home: () => void;
  /** Comes nearer by this factor, or goes back. */
  zoom?: (factor: number) => void;
}

/** What one press of + comes nearer by: three of them nearly double the stone. */
const nearer = 1.25;

/** Handlers for something that is turned by dragging, by touch and by the arrow keys. */
export function useOrbit({ turn, across, step, home, zoom }: Orbit) {
  const drag = useDrag({
    move: (x, y, e) => {
      const scale = across / e.currentTarget.clientWidth;
      turn(x * scale, y * scale);
    },
  });
  const onKeyDown = (e: KeyboardEvent) => {
    const arrow = arrowOf(e.key);
    // An arrow turns it as a drag to that side would.
    if (arrow) turn(arrow.right * step, -arrow.up * step);
    else if (zoom && (e.key === '+' || e.key === '=')) zoom(nearer);
    else if (zoom && e.key === '-') zoom(1 / nearer);
    else if (e.key === 'Home') home();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return { ...drag, onKeyDown };
}
