import type { PointerEvent } from 'react';
import { dot, type Camera, type Vec } from './geometry';

/** A point to ring in a drawing, that can be chosen. */
export interface RingMark {
  at: Vec;
  /** What it is, for the pointer and for those who cannot see it. */
  label: string;
  /** Its number, written beside it. */
  n?: number;
  chosen: boolean;
  run: () => void;
}

/** Facets whose plane can be grabbed and lowered or raised. */
export interface Grab {
  facets: ReadonlySet<number>;
  start: () => void;
  /** By how much the plane is moved outwards since it was grabbed, in design units. */
  move: (outwards: number) => void;
  end: () => void;
}

/** A facet that looks so squarely at the eye is lowered by dragging down. */
const square = 0.05;

/**
 * Follows a pointer that has grabbed a facet: the plane moves with the pointer along its normal as
 * that is seen by the camera.
 */
export function follow(
  e: PointerEvent<SVGGraphicsElement>,
  camera: Camera,
  normal: Vec,
  grab: Grab,
): void {
  const matrix = e.currentTarget.getScreenCTM()?.inverse();
  if (!matrix || e.button !== 0) return;
  e.preventDefault();
  e.stopPropagation();
  const on = (x: number, y: number) => new DOMPoint(x, y).matrixTransform(matrix);
  const from = on(e.clientX, e.clientY);
  const across = dot(normal, camera.right);
  const up = dot(normal, camera.up);
  const seen = Math.hypot(across, up);
  let started = false;
  const move = (event: globalThis.PointerEvent) => {
    const to = on(event.clientX, event.clientY);
    const [dx, dy] = [to.x - from.x, from.y - to.y];
    if (!started) grab.start();
    started = true;
    grab.move(seen < square ? dy : (dx * across + dy * up) / seen);
  };
  const end = () => {
    window.removeEventListener('pointermove', move);
    window.removeEventListener('pointerup', end);
    window.removeEventListener('pointercancel', end);
    if (started) grab.end();
  };
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', end);
  window.addEventListener('pointercancel', end);
}
