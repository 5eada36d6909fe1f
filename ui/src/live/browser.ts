import { Live } from './live';

/** What changes by itself, for the whole application. */
export const live = new Live();

/** How soon a source that was refused is asked again, in ms. */
const askAgain = 3000;

/**
 * Listens as long as the page is seen: a browser has few connections for one address, and pages that nobody looks at would
 * hold them all.
 */
export function startListening(): void {
  if (typeof EventSource === 'undefined') return;
  let again: ReturnType<typeof setTimeout> | undefined;
  const look = () => {
    clearTimeout(again);
    if (document.hidden) return live.close();
    const source = new EventSource('/api/live');
    live.listen(source);
    // It opens itself again when the connection breaks, but not where it was refused.
    source.addEventListener('error', () => {
      if (source.readyState !== EventSource.CLOSED) return;
      clearTimeout(again);
      again = setTimeout(look, askAgain);
    });
  };
  document.addEventListener('visibilitychange', look);
  look();
}
