import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, ApiProblem, client, Unreachable, type Problem } from './client';
import { refresh } from './refresh';
import type { components } from './schema';

export type CopiesPage = components['schemas']['CopiesPage'];
export type CopyLine = components['schemas']['CopyLine'];
export type CopyPlan = components['schemas']['CopyPlan'];

/** How often is asked while a copy is made or brought back, in ms. */
const whileAtIt = 500;

/** The copies of everything, and what is done with them just now. */
export const copiesQuery = queryOptions({
  queryKey: ['copies'],
  queryFn: () => answer(client.GET('/api/copies')),
  refetchInterval: (query) => (isAtIt(query.state.data) ? whileAtIt : false),
});

/**
 * Whether a copy is being made or brought back. One that was taken out whole takes the records' place
 * last; then the server begins anew, with other records and no job.
 */
export const isAtIt = (page: CopiesPage | undefined): boolean =>
  page !== undefined &&
  page.job.what !== '' &&
  (page.job.ended === '' || (page.job.what === 'restore' && page.job.ended === 'complete'));

/** What the owner should look after: copies that fail, wrong codes. */
export const noticesQuery = queryOptions({
  queryKey: ['notices'],
  queryFn: () => answer(client.GET('/api/notices')),
});

export const planCopies = mutationOptions({
  mutationFn: (body: CopyPlan) => answer(client.PUT('/api/copies/plan', { body })),
  onSuccess: refresh(copiesQuery.queryKey),
});

export const makeCopy = mutationOptions({
  mutationFn: () => answer(client.POST('/api/copies')),
  onSuccess: refresh(copiesQuery.queryKey),
});

export const stopCopy = mutationOptions({
  mutationFn: () => answer(client.DELETE('/api/copies/job')),
  onSuccess: refresh(copiesQuery.queryKey),
});

export const bringBack = mutationOptions({
  mutationFn: (name: string) =>
    answer(client.POST('/api/copies/{name}/restore', { params: { path: { name } } })),
  onSuccess: refresh(copiesQuery.queryKey),
});

/** Puts a copy from elsewhere beside the others. */
export const takeCopy = mutationOptions({
  mutationFn: async (file: File) => {
    const sent = await fetch('/api/copies/file', { method: 'POST', body: file }).catch(
      (cause: unknown) => {
        throw new Unreachable('unreachable', { cause });
      },
    );
    if (!sent.ok) throw new ApiProblem((await sent.json()) as Problem);
  },
  onSuccess: refresh(copiesQuery.queryKey),
});
