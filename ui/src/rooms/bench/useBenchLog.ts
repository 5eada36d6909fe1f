import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { answer, ApiProblem, client, type BenchEvent } from '../../api/client';
import { stoneQuery, stonesQuery } from '../../api/queries';
import { arrived, device, isFleeting, put, randomID, waiting } from './outbox';

/** What happens, without what every event gets: its name, its device and its time. */
export type Happening = Pick<BenchEvent, 'kind'> &
  Partial<Pick<BenchEvent, 'setup' | 'pass' | 'facet' | 'item' | 'undoes' | 'text'>>;

/** How soon the server is tried again while it is away. */
const retryAfter = 2000;

interface Log {
  /** Everything that happened, what is on disk first. */
  events: BenchEvent[];
  /** Names of the events that only this screen holds. */
  hollow: ReadonlySet<string>;
  /** The server was away at the last try. */
  away: boolean;
  /** The browser keeps nothing: what is hollow would be lost with the page. */
  fleeting: boolean;
  /** Why the server refused what waits. */
  refused: ApiProblem | null;
  /** Adds what happened and returns the events that it became. */
  add: (happenings: Happening[]) => BenchEvent[];
}

/**
 * The log of a stone at the wheel. An event goes into the outbox first and counts from then on; it
 * is hollow until the server has it on disk. While the server is away the outbox fills, and all of
 * it arrives once.
 */
export function useBenchLog(stone: string, first: BenchEvent[]): Log {
  const [onDisk, setOnDisk] = useState(first);
  const [held, setHeld] = useState<BenchEvent[]>([]);
  const [away, setAway] = useState(false);
  const [refused, setRefused] = useState<ApiProblem | null>(null);
  const busy = useRef(false);
  const queries = useQueryClient();

  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (let batch = await waiting(stone); batch.length > 0; batch = await waiting(stone)) {
        const request = { params: { path: { id: stone } }, body: { events: batch } };
        const log = await answer(client.POST('/api/stones/{id}/events', request));
        await arrived(batch);
        setOnDisk(log.events);
        const known = new Set(batch.map((e) => e.id));
        setHeld((h) => h.filter((e) => !known.has(e.id)));
        setAway(false);
        setRefused(null);
        void queries.invalidateQueries({ queryKey: stonesQuery.queryKey, exact: true });
        void queries.invalidateQueries({ queryKey: stoneQuery(stone).queryKey, exact: true });
      }
    } catch (e) {
      if (e instanceof ApiProblem) setRefused(e);
      setAway(!(e instanceof ApiProblem));
    } finally {
      busy.current = false;
    }
  }, [stone, queries]);

  useEffect(() => {
    void waiting(stone).then((list) => {
      setHeld((h) => [...list.filter((e) => !h.some((o) => o.id === e.id)), ...h]);
      return send();
    });
    const again = setInterval(() => void send(), retryAfter);
    window.addEventListener('online', send);
    return () => {
      clearInterval(again);
      window.removeEventListener('online', send);
    };
  }, [stone, send]);

  const add = useCallback(
    (happenings: Happening[]) => {
      const made = happenings.map(eventOf);
      setHeld((h) => [...h, ...made]);
      void put(stone, made).then(send);
      return made;
    },
    [stone, send],
  );

  const known = new Set(onDisk.map((e) => e.id));
  const hollow = held.filter((e) => !known.has(e.id));
  return {
    events: [...onDisk, ...hollow],
    hollow: new Set(hollow.map((e) => e.id)),
    away,
    fleeting: isFleeting(),
    refused,
    add,
  };
}

function eventOf(h: Happening): BenchEvent {
  const now = new Date().toISOString();
  const empty = {
    setup: '',
    pass: '',
    facet: '',
    item: '',
    undoes: '',
    text: '',
    deviceSeq: 0,
    seq: 0,
  };
  return { ...empty, ...h, id: randomID(), device: device(), deviceTime: now, serverTime: now };
}
