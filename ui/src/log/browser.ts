import { aloneIn } from './alone';
import { carryOver } from './carryOver';
import { Kept } from './kept';
import { Log } from './log';
import { realServer, Sender } from './sender';

/** The logs of this browser, and what sends them: one for the whole application. */
export const kept = new Kept();
export const log = new Log(kept);

const heard = new Set<(streams: ReadonlySet<string>) => void>();

/** Calls f whenever streams got something on the server's disk. */
export function onArrival(f: (streams: ReadonlySet<string>) => void): () => void {
  heard.add(f);
  return () => void heard.delete(f);
}

export const sender = new Sender(log, realServer, aloneIn(kept), (streams) =>
  heard.forEach((f) => f(streams)),
);

/** Begins to send what waits, whichever room is open. */
export function startSending(): void {
  // What an older version left is sent as well; the next start tries again where it failed.
  void carryOver(kept)
    .catch(() => {})
    .then(() => sender.send());
  window.addEventListener('online', () => void sender.send());
  document.addEventListener('visibilitychange', () => {
    if (!document.hidden) void sender.send();
  });
}
