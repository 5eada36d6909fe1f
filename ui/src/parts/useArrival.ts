import { useEffect, useRef } from 'react';
import { useLocation } from 'react-router';

/** The address of the room that was arrived at last. The first page of all is begun at its top. */
let arrivedAt: string | undefined;

/**
 * Puts the focus on a room's heading when the room is entered: those who do not see the screen
 * hear where they are, and the keyboard goes on from there instead of from the link that is gone.
 */
export function useArrival<T extends HTMLElement>() {
  const heading = useRef<T>(null);
  const { pathname } = useLocation();
  useEffect(() => {
    const entered = arrivedAt !== undefined && arrivedAt !== pathname;
    // The button that led from one face of a room to another is gone with it.
    const lost = arrivedAt !== undefined && document.activeElement === document.body;
    arrivedAt = pathname;
    if (entered || lost) heading.current?.focus({ preventScroll: true });
  }, [pathname]);
  return heading;
}
