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

/** A facet whose normal lies so little in the picture looks squarely at the eye (within 3°): the
 * picture shows no direction to drag it in, so that dragging down lowers it. */
const square = 0.05;

/**
 * Follows the pointer that has grabbed a facet: the plane moves with it along its normal as that
 * is seen by the camera. The drawing takes the pointer, because the facet itself may be cut away
 * under it; nothing else follows that pointer meanwhile.
 */
export function follow(
  e: PointerEvent<SVGGraphicsElement>,
  camera: Camera,
  normal: Vec,
  grab: Grab,
): void {
  const drawing = e.currentTarget.ownerSVGElement;
  const matrix = e.currentTarget.getScreenCTM()?.inverse();
  if (!drawing || !matrix || e.button !== 0) return;
  e.preventDefault();
  e.stopPropagation();
  const { pointerId } = e;
  const on = (x: number, y: number) => new DOMPoint(x, y).matrixTransform(matrix);
  const from = on(e.clientX, e.clientY);
  const across = dot(normal, camera.right);
  const up = dot(normal, camera.up);
  const facing = Math.hypot(across, up);
  let started = false;
  const over = new AbortController();
  const listen = (type: string, act: (event: globalThis.PointerEvent) => void) =>
    drawing.addEventListener(
      type,
      (event) => {
        if ((event as globalThis.PointerEvent).pointerId === pointerId)
          act(event as globalThis.PointerEvent);
      },
      { signal: over.signal },
    );
  const end = () => {
    over.abort();
    if (started) grab.end();
  };
  listen('pointermove', (event) => {
    const to = on(event.clientX, event.clientY);
    const [dx, dy] = [to.x - from.x, from.y - to.y];
    if (!started) {
      drawing.setPointerCapture(pointerId);
      grab.start();
    }
    started = true;
    grab.move(facing < square ? dy : (dx * across + dy * up) / facing);
  });
  listen('pointerup', end);
  listen('pointercancel', end);
  listen('lostpointercapture', end);
}
