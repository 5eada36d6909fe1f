import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, ApiProblem, client, eachLine, Unreachable, type Problem } from './client';
import type { LongWork } from './longWork';
import { refresh } from './refresh';
import type { components } from './schema';

export type CopiesPage = components['schemas']['CopiesPage'];
export type CopyLine = components['schemas']['CopyLine'];
export type CopyingLine = components['schemas']['CopyingLine'];
export type CopyPlan = components['schemas']['CopyPlan'];

/** The copies of everything. */
export const copiesQuery = queryOptions({
  queryKey: ['copies'],
  queryFn: () => answer(client.GET('/api/copies')),
});

/** Making a copy, or bringing back the one that is named. */
export const copying: LongWork<{ bringBack?: string }, CopyingLine> = {
  start: ({ bringBack: name }) =>
    name === undefined
      ? answer(client.POST('/api/copies'))
      : answer(client.POST('/api/copies/{name}/restore', { params: { path: { name } } })),
  follow: (each, signal) => eachLine(fetch('/api/copies/work', { signal }), each),
  stop: () => answer(client.DELETE('/api/copies/work')),
};

/** What the owner should look after: copies that fail, wrong codes. */
export const noticesQuery = queryOptions({
  queryKey: ['notices'],
  queryFn: () => answer(client.GET('/api/notices')),
});

export const planCopies = mutationOptions({
  mutationFn: (body: CopyPlan) => answer(client.PUT('/api/copies/plan', { body })),
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
