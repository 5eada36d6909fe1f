import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Instrument } from './client';
import { making } from './making';
import { refresh } from './refresh';
import { stonesKey } from './stones';
import type { Versioned } from './versioned';

/** What measures on the bench: how it is set, not what it reads. */
export const instrumentsQuery = queryOptions({
  queryKey: ['instruments'],
  queryFn: async () => (await answer(client.GET('/api/instruments'))).instruments,
});

/** An instrument as somebody says it, before it is kept. */
export type NewInstrument = Pick<Instrument, 'name' | 'port' | 'address' | 'baud'>;

const fresh = { id: '', created: '1970-01-01T00:00:00Z', version: 0, scales: [] };

export const addInstrument = mutationOptions({
  mutationFn: (instrument: NewInstrument) =>
    making(['instrument', instrument], (head) =>
      client.POST('/api/instruments', { body: { ...fresh, ...instrument }, ...head }),
    ),
  onSuccess: refresh(instrumentsQuery.queryKey),
});

/** An instrument under its ID. */
export const instrumentRecord = (id: string): Versioned<Instrument, Instrument, Instrument> => ({
  write: (instrument, version) =>
    answer(
      client.PUT('/api/instruments/{id}', {
        params: { path: { id } },
        body: { ...instrument, version },
      }),
    ),
  read: async () => {
    const { instruments } = await answer(client.GET('/api/instruments'));
    return instruments.find((i) => i.id === id)!;
  },
  versionOf: (i) => i.version,
});

export const dropInstrument = mutationOptions({
  mutationFn: ({ id }: Instrument) =>
    answer(client.DELETE('/api/instruments/{id}', { params: { path: { id } } })),
  onSuccess: refresh(instrumentsQuery.queryKey),
});

/** Places where an instrument may be. */
export const findInstruments = mutationOptions({
  mutationFn: async () => (await answer(client.POST('/api/instruments/find'))).found,
});

/** Takes the stone that stands on an instrument for a stone as it was cut. */
export const takeOverStone = mutationOptions({
  mutationFn: ({ stone, instrument }: { stone: string; instrument: string }) =>
    answer(
      client.POST('/api/stones/{id}/survey', {
        params: { path: { id: stone } },
        body: { instrument },
      }),
    ),
  onSuccess: refresh(stonesKey),
});
