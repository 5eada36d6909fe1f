import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { answer, client, type Draft } from '../../api/client';
import type { Looking } from '../../parts/light/looking';

/** A diagram and how it is looked at. */
export interface LookedAt {
  draft: Draft;
  looking: Looking;
}

const kept = { placeholderData: keepPreviousData, retry: false, staleTime: 60_000 } as const;

/** The figures of a stone face up: one row of the table of materials. */
export const figuresQuery = (draft: Draft, looking: Looking) =>
  queryOptions({
    queryKey: ['light figures', draft, looking],
    queryFn: async ({ signal }) => {
      const body = { ...looking, draft, materials: [looking.material] };
      const { rows } = await answer(client.POST('/api/light/materials', { body, signal }));
      return rows[0]!.figures;
    },
    ...kept,
  });

export const materialRowsQuery = (draft: Draft, looking: Looking, materials: string[]) =>
  queryOptions({
    queryKey: ['light by material', draft, looking, materials],
    queryFn: async ({ signal }) => {
      const body = { ...looking, draft, materials };
      return (await answer(client.POST('/api/light/materials', { body, signal }))).rows;
    },
    ...kept,
  });

export const tiltsQuery = (draft: Draft, looking: Looking) =>
  queryOptions({
    queryKey: ['light tilts', draft, looking],
    queryFn: async ({ signal }) => {
      const body = { ...looking, draft };
      return (await answer(client.POST('/api/light/tilts', { body, signal }))).points;
    },
    ...kept,
  });

export const girdleQuery = (draft: Draft, looking: Looking, passes: number) =>
  queryOptions({
    queryKey: ['light by girdle', draft, looking, passes],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/light/girdle', { body: { ...looking, draft, passes }, signal })),
    ...kept,
  });

export const sweepsQuery = (id: string) =>
  queryOptions({
    queryKey: ['sweeps', id],
    queryFn: () => answer(client.GET('/api/diagrams/{id}/sweeps', { params: { path: { id } } })),
  });

export const sweepQuery = (id: string) =>
  queryOptions({
    queryKey: ['sweep', id],
    queryFn: () => answer(client.GET('/api/sweeps/{id}', { params: { path: { id } } })),
    staleTime: Infinity,
  });

export const pickQuery = (id: string, x: number, y: number) =>
  queryOptions({
    queryKey: ['pick', id, x, y],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/sweeps/{id}/pick', {
          params: { path: { id } },
          body: { x, y },
          signal,
        }),
      ),
    ...kept,
  });
