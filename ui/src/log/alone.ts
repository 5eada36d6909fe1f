import type { Kept } from './kept';
import { randomID } from '../api/making';
import type { Alone } from './sender';

/** How long a tab may send before another one takes it for closed, in ms. */
const lease = 15_000;

/**
 * Lets one tab of this browser send at a time: by the browser's own locks, or, where there are none
 * because the page came over plain http, by a lease in the database. A tab that was closed or
 * killed loses either.
 */
export function aloneIn(kept: Kept): Alone {
  if (typeof navigator !== 'undefined' && 'locks' in navigator)
    return async (f) => {
      await navigator.locks.request(`${kept.name}-sender`, f);
    };
  const me = randomID();
  return async (f) => {
    if (!(await taken(kept, me))) return;
    try {
      await f();
    } finally {
      await kept.singles.delete('sender').catch(() => {});
    }
  };
}

/** Takes the lease, unless another tab has it. Where nothing can be kept nobody else sends. */
async function taken(kept: Kept, me: string): Promise<boolean> {
  try {
    return await kept.transaction('rw', kept.singles, async () => {
      const has = (await kept.singles.get('sender'))?.value as
        { holder: string; until: number } | undefined;
      if (has && has.holder !== me && has.until > Date.now()) return false;
      await kept.singles.put({ key: 'sender', value: { holder: me, until: Date.now() + lease } });
      return true;
    });
  } catch {
    return true;
  }
}
