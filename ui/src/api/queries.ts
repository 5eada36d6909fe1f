import { queryOptions } from '@tanstack/react-query';
import { answer, client } from './client';

/** Key and fetch of everything the rooms read, in one place. */

export const settingsQuery = queryOptions({
  queryKey: ['settings'],
  queryFn: () => answer(client.GET('/api/settings')),
});

export const materialsQuery = queryOptions({
  queryKey: ['materials'],
  queryFn: async () => (await answer(client.GET('/api/materials'))).materials,
  staleTime: Infinity,
});

export const fieldsQuery = queryOptions({
  queryKey: ['fields'],
  queryFn: () => answer(client.GET('/api/fields')),
  staleTime: Infinity,
});

export const diagramsQuery = queryOptions({
  queryKey: ['diagrams'],
  queryFn: async () => (await answer(client.GET('/api/diagrams'))).diagrams,
});

export const diagramQuery = (id: string) =>
  queryOptions({
    queryKey: ['diagrams', id],
    queryFn: () => answer(client.GET('/api/diagrams/{id}', { params: { path: { id } } })),
  });

export const stonesQuery = queryOptions({
  queryKey: ['stones'],
  queryFn: async () => (await answer(client.GET('/api/stones'))).stones,
});

export const stoneQuery = (id: string) =>
  queryOptions({
    queryKey: ['stones', id],
    queryFn: () => answer(client.GET('/api/stones/{id}', { params: { path: { id } } })),
  });

export const scriptQuery = (id: string) =>
  queryOptions({
    queryKey: ['stones', id, 'script'],
    queryFn: () => answer(client.GET('/api/stones/{id}/script', { params: { path: { id } } })),
  });

/** What a plan of a diagram begins with. It follows the settings, so it is asked anew each time. */
export const proposalQuery = (id: string) =>
  queryOptions({
    queryKey: ['diagrams', id, 'proposal'],
    queryFn: () => answer(client.GET('/api/diagrams/{id}/proposal', { params: { path: { id } } })),
    gcTime: 0,
    staleTime: Infinity,
  });

export const devicesQuery = queryOptions({
  queryKey: ['devices'],
  queryFn: () => answer(client.GET('/api/devices')),
});

export const runQuery = (id: string) =>
  queryOptions({
    queryKey: ['stones', 'run', id],
    queryFn: () => answer(client.GET('/api/runs/{id}', { params: { path: { id } } })),
  });

export const repairQuery = (id: string) =>
  queryOptions({
    queryKey: ['stones', 'repair', id],
    queryFn: () => answer(client.GET('/api/repairs/{id}', { params: { path: { id } } })),
  });

export const tintsQuery = queryOptions({
  queryKey: ['tints'],
  queryFn: async () => (await answer(client.GET('/api/tints'))).tints,
  staleTime: Infinity,
});
