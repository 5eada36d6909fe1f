import { useEffect, useRef } from 'react';
import { useLocation, useNavigationType } from 'react-router';

/** How far each entry of the history was scrolled, in px. */
const remembered = new Map<string, number>();

/**
 * Scrolls what holds the rooms: a new room begins at its top, and Back returns to where one was,
 * as soon as what lies there has been fetched.
 */
export function useScrollMemory<T extends HTMLElement>() {
  const box = useRef<T>(null);
  const { key, pathname } = useLocation();
  const back = useNavigationType() === 'POP';
  const at = useRef(pathname);
  useEffect(() => {
    const element = box.current!;
    const target = back ? (remembered.get(key) ?? 0) : 0;
    // Another filter or tier of the same room scrolls nothing.
    if (back || at.current !== pathname) element.scrollTop = target;
    at.current = pathname;
    const note = () => void remembered.set(key, element.scrollTop);
    const reach = () => {
      if (element.scrollTop === target) return settle();
      element.scrollTop = target;
    };
    const grown = new ResizeObserver(reach);
    const settle = () => grown.disconnect();
    if (target > 0 && element.scrollTop < target)
      for (const child of element.children) grown.observe(child);
    // Whoever scrolls meanwhile knows better.
    element.addEventListener('wheel', settle, { passive: true });
    element.addEventListener('pointerdown', settle);
    element.addEventListener('scroll', note, { passive: true });
    return () => {
      settle();
      element.removeEventListener('wheel', settle);
      element.removeEventListener('pointerdown', settle);
      element.removeEventListener('scroll', note);
    };
  }, [key, pathname, back]);
  return box;
}
