import { useState } from 'react';
import { remember, remembered } from '../../../log/remember';

/** What a pedal can be taught to do. */
export const acts = ['done', 'back', 'skip', 'happened', 'say'] as const;

export type Act = (typeof acts)[number];

/** The keys of each where nothing was learned: a presenter's are among them. */
export const usualKeys: Record<Act, readonly string[]> = {
  done: ['Enter', ' ', 'ArrowRight', 'PageDown'],
  back: ['Backspace', 'ArrowLeft', 'PageUp'],
  skip: ['s'],
  happened: ['e'],
  say: ['v'],
};

/** How this browser works where no hand is free. */
export interface Hands {
  /** Keys that were learned, as KeyboardEvent.key names them. */
  pedal: Partial<Record<Act, string[]>>;
  splash: boolean;
  speak: boolean;
  chime: boolean;
}

const usual: Hands = { pedal: {}, splash: true, speak: false, chime: false };

const key = 'cressa-hands';

/** What this browser remembers of it, and how it is changed. */
export function useHands(): [Hands, (change: Partial<Hands>) => void] {
  const [hands, setHands] = useState(read);
  return [
    hands,
    (change) => {
      const next = { ...hands, ...change };
      remember(key, JSON.stringify(next));
      setHands(next);
    },
  ];
}

function read(): Hands {
  try {
    return { ...usual, ...(JSON.parse(remembered(key) ?? '{}') as Partial<Hands>) };
  } catch {
    return usual;
  }
}

/** Teaches a key: what it did before it does no more. */
export function taught(pedal: Hands['pedal'], act: Act, key: string): Hands['pedal'] {
  const others = Object.entries(pedal).map(([a, keys]) => [a, keys.filter((k) => k !== key)]);
  const rest = Object.fromEntries(others) as Hands['pedal'];
  return { ...rest, [act]: [...(rest[act] ?? []), key] };
}

/** The keys of an act: those that were learned, and the usual ones that were not learned for another. */
export function keysOf(pedal: Hands['pedal'], act: Act): string[] {
  const learned = Object.values(pedal).flat();
  return [...(pedal[act] ?? []), ...usualKeys[act].filter((k) => !learned.includes(k))];
}
