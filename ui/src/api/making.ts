import { answer, Unreachable } from './client';

/** 128 random bits as 32 hexadecimal digits. */
export function randomID(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** The names of requests whose answer was lost, by what they ask for. */
const unanswered = new Map<string, string>();

/**
 * Sends what makes a record. It has a name: where the answer is lost and the same is asked for once
 * more, it goes out under that name again, and the server makes nothing twice. `what` says what is
 * asked for.
 */
export async function making<T>(
  what: unknown,
  send: (head: { headers: { 'Idempotency-Key': string } }) => Parameters<typeof answer<T>>[0],
): Promise<T> {
  const asked = JSON.stringify(what);
  const name = unanswered.get(asked) ?? randomID();
  unanswered.set(asked, name);
  try {
    const made = await answer(send({ headers: { 'Idempotency-Key': name } }));
    unanswered.delete(asked);
    return made;
  } catch (error) {
    if (!(error instanceof Unreachable)) unanswered.delete(asked);
    throw error;
  }
}
