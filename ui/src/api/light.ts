import { keepPreviousData, queryOptions, type QueryClient } from '@tanstack/react-query';
import { answer, client, type Draft, type LookRequest } from './client';
import { reread } from './refresh';

/** What the server computes of a stone under light. */

/** What a stone is made of and how it is looked at. */
export type Lighting = Omit<LookRequest, 'draft' | 'show' | 'split' | 'tilt' | 'to' | 'grid'>;

/** A diagram and how it is looked at. */
export interface LitDraft {
  draft: Draft;
  lighting: Lighting;
}

const kept = { placeholderData: keepPreviousData, retry: false, staleTime: 60_000 } as const;

/** A picture of a stone with so many rays across. A null request asks nothing. */
export const lookQuery = (body: Omit<LookRequest, 'grid'> | null, grid: number) =>
  queryOptions({
    queryKey: ['look', body, grid],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/light/look', { body: { ...body!, grid }, signal })),
    enabled: body !== null,
    staleTime: Infinity,
    gcTime: 20_000,
    retry: false,
  });

/** The figures of a stone face up: one row of the table of materials. */
export const figuresQuery = (draft: Draft, lighting: Lighting) =>
  queryOptions({
    queryKey: ['light figures', draft, lighting],
    queryFn: async ({ signal }) => {
      const body = { ...lighting, draft, materials: [lighting.material] };
      const { rows } = await answer(client.POST('/api/light/materials', { body, signal }));
      return rows[0]!.figures;
    },
    ...kept,
  });

export const materialRowsQuery = (draft: Draft, lighting: Lighting, materials: string[]) =>
  queryOptions({
    queryKey: ['light by material', draft, lighting, materials],
    queryFn: async ({ signal }) => {
      const body = { ...lighting, draft, materials };
      return (await answer(client.POST('/api/light/materials', { body, signal }))).rows;
    },
    ...kept,
  });

export const tiltsQuery = (draft: Draft, lighting: Lighting) =>
  queryOptions({
    queryKey: ['light tilts', draft, lighting],
    queryFn: async ({ signal }) => {
      const body = { ...lighting, draft };
      return (await answer(client.POST('/api/light/tilts', { body, signal }))).points;
    },
    ...kept,
  });

/** What a tier is worth, as many passes as is the habit. */
export const withoutQuery = (draft: Draft, lighting: Lighting, tier: number) =>
  queryOptions({
    queryKey: ['light without', draft, lighting, tier],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/light/without', {
          body: { ...lighting, draft, tier, passes: 0 },
          signal,
        }),
      ),
    ...kept,
  });

export const girdleQuery = (draft: Draft, lighting: Lighting, passes: number) =>
  queryOptions({
    queryKey: ['light by girdle', draft, lighting, passes],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/light/girdle', { body: { ...lighting, draft, passes }, signal })),
    ...kept,
  });

export const sweepsQuery = (id: string) =>
  queryOptions({
    queryKey: ['sweeps', id],
    queryFn: () => answer(client.GET('/api/diagrams/{id}/sweeps', { params: { path: { id } } })),
  });

export const rereadSweeps = (queries: QueryClient, id: string): Promise<void> =>
  reread(queries, sweepsQuery(id).queryKey);

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
