import { useCallback, useEffect, useRef, useState } from 'react';
import { answer, client } from '../api/client';
import type { components } from '../api/schema';

type Schemas = components['schemas'];
export type Scene = Schemas['SimulatedScene'];
export type Controls = Schemas['SimulatedControls'];
export type Beside = Schemas['SimulatedBeside'];
export type Errors = Schemas['SimulatedErrors'];
export type Setup = Schemas['SimulatedSetup'];

export interface Machine {
  scene: Scene;
  error: Error | null;
  /** Moves the hands: what is not named stays. */
  set: (change: Partial<Controls>) => void;
  beside: (change: Partial<Beside>) => void;
  spoil: (errors: Errors) => void;
  dop: (setup: Setup) => void;
  turnOver: () => void;
  charge: () => void;
}

/** The simulated machine as it runs; undefined until it was first seen. Away tells that it does not answer. */
export function useMachine(): { machine: Machine | undefined; away: boolean } {
  const [scene, setScene] = useState<Scene>();
  const [away, setAway] = useState(false);
  const [error, setError] = useState<Error | null>(null);
  // What the hands have set, ahead of what the machine has told of it: the next move begins there.
  const hands = useRef<Controls>(undefined);
  const moving = useRef(0);
  useEffect(() => {
    const source = new EventSource('/api/simulator/live');
    source.addEventListener('scene', (e) => {
      const told = JSON.parse((e as MessageEvent<string>).data) as Scene;
      if (moving.current === 0) hands.current = told.controls;
      setScene(moving.current === 0 ? told : { ...told, controls: hands.current! });
      setAway(false);
    });
    source.addEventListener('error', () => setAway(true));
    return () => source.close();
  }, []);
  const ask = useCallback(async (asked: () => Promise<unknown>) => {
    moving.current++;
    await asked().then(
      () => setError(null),
      (e: unknown) => setError(e as Error),
    );
    moving.current--;
  }, []);
  if (!scene) return { machine: undefined, away };
  const set = (change: Partial<Controls>) => {
    const body = { ...(hands.current ?? scene.controls), ...change };
    hands.current = body;
    setScene((s) => s && { ...s, controls: body });
    void ask(() => answer(client.PUT('/api/simulator/controls', { body })));
  };
  return {
    away,
    machine: {
      scene,
      error,
      set,
      beside: (change) =>
        void ask(() =>
          answer(client.PUT('/api/simulator/beside', { body: { ...scene.beside, ...change } })),
        ),
      spoil: (body) => void ask(() => answer(client.PUT('/api/simulator/errors', { body }))),
      dop: (body) => void ask(() => answer(client.POST('/api/simulator/rough', { body }))),
      turnOver: () => void ask(() => answer(client.POST('/api/simulator/over'))),
      charge: () => void ask(() => answer(client.POST('/api/simulator/charge'))),
    },
  };
}
