import { useEffect, useState, useSyncExternalStore } from 'react';
import type { BenchScript } from '../../../api/client';
import { Ear, type Hearing } from '../../../ear/ear';
import type { Learned } from '../../../ear/hearing';
import { remember, remembered } from '../../../log/remember';
import { chime } from '../hands/voice';

/** What this browser remembers of how a material sounds on a lap: each pair has a sound of its own. */
const keyOf = (script: BenchScript, pass: string): string =>
  `cressa-ear/${script.material}/${script.passes.find((p) => p.id === pass)?.name ?? pass}`;

function knownOf(key: string): Learned | undefined {
  try {
    return JSON.parse(remembered(key) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
}

/** The ear of a bench, for the stone on the lap of a pass. It chimes when a cut has stopped, and ends with the bench. */
export function useEar(script: BenchScript, pass: string | undefined): Ear {
  const [ear] = useState(() => new Ear());
  const key = pass === undefined ? undefined : keyOf(script, pass);
  useEffect(() => {
    if (key === undefined) return;
    ear.know(knownOf(key));
    // What it learns from now on is of this lap.
    let knows = ear.knows();
    return ear.subscribe(() => {
      if (ear.knows() === knows) return;
      knows = ear.knows();
      remember(key, knows ? JSON.stringify(knows) : null);
    });
  }, [ear, key]);
  useEffect(() => ear.onStop(chime), [ear]);
  useEffect(() => () => ear.stop(), [ear]);
  return ear;
}

export const useHearing = (ear: Ear): Hearing => useSyncExternalStore(ear.subscribe, ear.now);
