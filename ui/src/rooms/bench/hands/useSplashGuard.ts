import { useRef, type MouseEvent, type PointerEvent } from 'react';

/** A touch that is shorter is a drop, one that is longer a hand that rests, both in ms. */
const drop = 80;
const rest = 2000;

/** A touch that is wider, in px, is a hand and no finger. */
const handWide = 110;

/** How long two fingers are held to go back, in ms. */
const hold = 600;

/**
 * Keeps drops, a resting hand and touches in several places from pressing anything inside the box that
 * gets these handlers; two fingers that are held there call `back`. Mouse and keys are left alone.
 */
export function useSplashGuard(on: boolean, back: () => void) {
  const down = useRef(new Map<number, number>());
  const spoiled = useRef(false);
  const held = useRef<ReturnType<typeof setTimeout>>(undefined);
  if (!on) return {};
  const lift = (e: PointerEvent) => {
    const since = down.current.get(e.pointerId);
    if (since === undefined) return;
    down.current.delete(e.pointerId);
    clearTimeout(held.current);
    const took = e.timeStamp - since;
    if (took < drop || took > rest) spoiled.current = true;
  };
  return {
    onPointerDownCapture: (e: PointerEvent) => {
      if (e.pointerType !== 'touch') return;
      if (down.current.size === 0) spoiled.current = false;
      down.current.set(e.pointerId, e.timeStamp);
      if (down.current.size > 1 || Math.max(e.width, e.height) > handWide) spoiled.current = true;
      clearTimeout(held.current);
      if (down.current.size === 2) held.current = setTimeout(back, hold);
    },
    onPointerUpCapture: lift,
    onPointerCancelCapture: (e: PointerEvent) => {
      lift(e);
      spoiled.current = true;
    },
    onClickCapture: (e: MouseEvent) => {
      const { pointerType } = e.nativeEvent as globalThis.PointerEvent;
      if (pointerType !== 'touch' || !spoiled.current) return;
      e.stopPropagation();
      e.preventDefault();
    },
  };
}
