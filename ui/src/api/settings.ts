import {
  keepPreviousData,
  mutationOptions,
  queryOptions,
  type QueryClient,
} from '@tanstack/react-query';
import { answer, client, type Settings } from './client';
import { refresh, reread } from './refresh';
import type { Versioned } from './versioned';

/** Machines, habits, materials and devices: what is read of them, and what changes them. */

export const settingsQuery = queryOptions({
  queryKey: ['settings'],
  queryFn: () => answer(client.GET('/api/settings')),
});

export const materialsQuery = queryOptions({
  queryKey: ['materials'],
  queryFn: async () => (await answer(client.GET('/api/materials'))).materials,
  staleTime: Infinity,
});

/** What the fields of a diagram offer. */
export const fieldsQuery = queryOptions({
  queryKey: ['fields'],
  queryFn: () => answer(client.GET('/api/fields')),
  staleTime: Infinity,
});

/** What something new begins with where nothing is said. It follows the default machine. */
export const usualQuery = queryOptions({
  queryKey: ['usual'],
  queryFn: () => answer(client.GET('/api/usual')),
});

/** What pegs set in the holes of a jamb. Lengths and heights are in mm. */
export const holesQuery = (pegs: number[], holes: number[]) =>
  queryOptions({
    queryKey: ['holes', pegs, holes],
    queryFn: () => answer(client.POST('/api/holes', { body: { pegs, holes } })),
    placeholderData: keepPreviousData,
  });

/** How far readings of one angle scatter, in degrees. */
export const scatterQuery = (readings: number[]) =>
  queryOptions({
    queryKey: ['scatter', readings],
    queryFn: async () =>
      (await answer(client.POST('/api/scatter', { body: { readings } }))).scatter,
    enabled: readings.length >= fewestReadings,
  });

/** Fewer readings say nothing of how far they scatter. */
export const fewestReadings = 3;

/** The body colours that a stone can be shown in. */
export const tintsQuery = queryOptions({
  queryKey: ['tints'],
  queryFn: async () => (await answer(client.GET('/api/tints'))).tints,
  staleTime: Infinity,
});

/** How far the default machine's angles, indexes and depths repeat. */
export const machineErrorsQuery = queryOptions({
  queryKey: ['machine errors'],
  queryFn: () => answer(client.GET('/api/tolerance')),
});

/** The settings as a whole. Once they are written, the first questions are answered. */
export const settingsRecord: Versioned<Settings, Settings, Settings> = {
  write: (settings, version) =>
    answer(client.PUT('/api/settings', { body: { ...settings, answered: true, version } })),
  read: () => answer(client.GET('/api/settings')),
  versionOf: (s) => s.version,
};

/** Puts settings that were read or written anew where rooms look; materials and what is usual follow them. */
export function storeSettings(queries: QueryClient, settings: Settings): void {
  queries.setQueryData(settingsQuery.queryKey, settings);
  void reread(queries, materialsQuery.queryKey);
  void reread(queries, usualQuery.queryKey);
}

/** The machine with an ID, the default where it is gone. */
export const machineOf = (s: Settings, id: string) =>
  s.machines.find((m) => m.id === id) ?? defaultMachine(s);

/** The machine that is used where nothing else is said. */
export const defaultMachine = (s: Settings) =>
  s.machines.find((m) => m.id === s.machine) ?? s.machines[0]!;

/** The paired devices, and the code while a further one is let in. */
export const devicesQuery = queryOptions({
  queryKey: ['devices'],
  queryFn: () => answer(client.GET('/api/devices')),
  refetchInterval: 15_000,
});

export const openDoor = mutationOptions({
  mutationFn: () => answer(client.POST('/api/devices/door')),
  onSuccess: refresh(devicesQuery.queryKey),
});

export const closeDoor = mutationOptions({
  mutationFn: () => answer(client.DELETE('/api/devices/door')),
  onSuccess: refresh(devicesQuery.queryKey),
});

export const forgetWrongCodes = mutationOptions({
  mutationFn: () => answer(client.DELETE('/api/devices/wrong')),
  onSuccess: refresh(devicesQuery.queryKey),
});

export const revokeDevice = mutationOptions({
  mutationFn: (device: { id: string }) =>
    answer(client.DELETE('/api/devices/{id}', { params: { path: { id: device.id } } })),
  onSuccess: refresh(devicesQuery.queryKey),
});

export const nameDevice = mutationOptions({
  mutationFn: ({ id, name }: { id: string; name: string }) =>
    answer(client.PUT('/api/devices/{id}', { params: { path: { id } }, body: { name } })),
  onSuccess: refresh(devicesQuery.queryKey),
});
