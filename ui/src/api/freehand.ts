import { keepPreviousData, mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Draft, type FreehandSetting, type FreehandUntil } from './client';
import { diagramListsKey } from './diagrams';
import { making } from './making';
import { refresh } from './refresh';
import { stonesKey } from './stones';

/** A stone that is cut without a diagram: how it stands, what a setting comes to, what comes of it. */

const once = { retry: false, staleTime: Infinity, gcTime: 10_000 } as const;

/** How the stone stands, what is reached with a setting, and the stone after a cut that stops there. */
export const freehandQuery = (
  draft: Draft,
  setting: FreehandSetting | null,
  until: FreehandUntil | null,
) =>
  queryOptions({
    ...once,
    queryKey: ['freehand', draft, setting, until],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/freehand', { body: { draft, setting, until }, signal })),
    placeholderData: keepPreviousData,
  });

/** The diagram that comes of it. */
export const tidyQuery = (draft: Draft) =>
  queryOptions({
    ...once,
    queryKey: ['freehand', 'tidy', draft],
    queryFn: ({ signal }) => answer(client.POST('/api/freehand/tidy', { body: { draft }, signal })),
  });

/** Begins a stone that is cut freehand. */
export const beginFreehand = mutationOptions({
  mutationFn: (body: { name: string; material: string; width: number; gear: number }) =>
    making(['freehand', body], (head) => client.POST('/api/freehand/stones', { body, ...head })),
  onSuccess: refresh(diagramListsKey, stonesKey),
});
