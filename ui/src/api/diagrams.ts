import {
  infiniteQueryOptions,
  keepPreviousData,
  mutationOptions,
  queryOptions,
  type QueryClient,
} from '@tanstack/react-query';
import { answer, client, isStale, type Diagram, type DiagramPage, type Draft } from './client';
import { making } from './making';
import { refresh, reread } from './refresh';
import type { paths } from './schema';
import type { Versioned } from './versioned';

/** The library: what is read of it, what changes it, and what is read anew after a change. */

/** What everything about diagrams begins with: a change of one may change any list. */
const diagramsKey = ['diagrams'];
/** Every list of diagrams, and none of them alone. */
export const diagramListsKey = [...diagramsKey, 'list'];

/** How often is asked again while the machine still judges a version, in ms. */
const judging = 700;

export type DiagramFilter = NonNullable<paths['/api/diagrams']['get']['parameters']['query']>;

/** The library, page by page. While the machine still judges diagrams it is asked again. */
export const libraryQuery = (filter: DiagramFilter) =>
  infiniteQueryOptions({
    queryKey: [...diagramListsKey, filter],
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/diagrams', { params: { query: { ...filter, after: pageParam } } })),
    initialPageParam: '',
    getNextPageParam: (page) => page.next || undefined,
    placeholderData: keepPreviousData,
    refetchInterval: (q) => (q.state.data?.pages.some((p) => p.waiting > 0) ? judging : false),
  });

const at = (id: string) => ({ params: { path: { id } } });

export const diagramQuery = (id: string) =>
  queryOptions({
    queryKey: [...diagramsKey, id],
    queryFn: () => answer(client.GET('/api/diagrams/{id}', at(id))),
    // The machine judges a version soon after it was kept.
    refetchInterval: (q) =>
      q.state.data && q.state.data.revision !== '' && !q.state.data.judged ? judging : false,
  });

/** The small drawing of a version. A version never changes. */
export const pictureQuery = (hash: string) =>
  queryOptions({
    queryKey: ['pictures', hash],
    queryFn: () => answer(client.GET('/api/pictures/{hash}', { params: { path: { hash } } })),
    staleTime: Infinity,
    enabled: hash !== '',
  });

/** What a plan of a diagram begins with. It follows the settings, so it is asked anew each time. */
export const proposalQuery = (id: string, stone = '') =>
  queryOptions({
    queryKey: [...diagramsKey, id, 'proposal', { stone }],
    queryFn: () =>
      answer(
        client.GET('/api/diagrams/{id}/proposal', { params: { path: { id }, query: { stone } } }),
      ),
    gcTime: 0,
    staleTime: Infinity,
  });

type Sheet = paths['/api/diagrams/{id}/sheet/{paper}/{pages}']['get']['parameters']['path'];

/** The cutting sheet of a diagram, a stone or a run. */
export const sheetQuery = (of: 'diagrams' | 'stones' | 'runs', { id, paper, pages }: Sheet) =>
  queryOptions({
    queryKey: [of, id, 'sheet', paper, pages],
    queryFn: () =>
      answer(
        client.GET(`/api/${of}/{id}/sheet/{paper}/{pages}`, {
          params: { path: { id, paper, pages } },
        }),
      ),
  });

/** Puts a changed diagram into what is read; another version has to be judged anew. */
export function storeDiagram(queries: QueryClient, d: Diagram): void {
  queries.setQueryData(
    diagramQuery(d.id).queryKey,
    (page: DiagramPage | undefined) =>
      page && { ...page, ...d, judged: d.revision === page.revision ? page.judged : null },
  );
  void reread(queries, diagramListsKey);
}

/** Shows a draft on the diagram's page before it is on disk. */
export function storeDraft(queries: QueryClient, id: string, draft: Draft): void {
  queries.setQueryData(diagramQuery(id).queryKey, (d) => d && { ...d, draft, edited: true });
}

export const rereadDiagram = (queries: QueryClient, id: string): Promise<void> =>
  reread(queries, diagramQuery(id).queryKey);

export const readDiagram = (id: string): Promise<DiagramPage> =>
  answer(client.GET('/api/diagrams/{id}', at(id)));

export const rereadDiagrams = (queries: QueryClient): Promise<void> => reread(queries, diagramsKey);

/** A browser sends no more than 64 KiB, all together, of what is to outlive its page. */
const outliving = 60_000;

/**
 * Writes a draft over a version. Mistakes in it are kept too. `closing` lets the request go on
 * after the page, where it is small enough.
 */
export function saveDraft(
  id: string,
  draft: Draft,
  version: number,
  closing = false,
): Promise<Diagram> {
  const body = { draft, version };
  const keepalive = closing && new Blob([JSON.stringify(body)]).size < outliving;
  return answer(client.PUT('/api/diagrams/{id}/draft', { ...at(id), body, keepalive }));
}

/** The draft of a diagram, for those who change it as a whole. */
export const draftRecord = (id: string): Versioned<Draft, DiagramPage> => ({
  write: (draft, version) => saveDraft(id, draft, version),
  read: () => readDiagram(id),
  versionOf: (d) => d.version,
});

/** Makes the draft of a version a version of the diagram that plans can be made from. */
export const keepDraft = (id: string, version: number): Promise<Diagram> =>
  answer(client.POST('/api/diagrams/{id}/keep', { ...at(id), body: { version } }));

export const createDiagram = mutationOptions({
  mutationFn: () => making(['diagram'], (head) => client.POST('/api/diagrams', head)),
  onSuccess: refresh(diagramListsKey),
});

/** Adds a draft as a diagram of its own. */
export const addDiagram = mutationOptions({
  mutationFn: (body: { draft: Draft; origin: string; designed: boolean }) =>
    making(['draft', body], (head) => client.POST('/api/diagrams/add', { body, ...head })),
  onSuccess: refresh(diagramListsKey),
});

/** Makes a variant: of the diagram as it is, or with another draft, which is then kept at once. */
export const varyDiagram = mutationOptions({
  mutationFn: ({ id, draft = null }: { id: string; draft?: Draft | null }) =>
    making(['variant', id, draft], (head) =>
      client.POST('/api/diagrams/{id}/variant', { ...at(id), body: { draft }, ...head }),
    ),
  onSuccess: refresh(diagramsKey),
});

export const copyDiagram = mutationOptions({
  mutationFn: (id: string) =>
    making(['copy', id], (head) => client.POST('/api/diagrams/{id}/copy', { ...at(id), ...head })),
  onSuccess: refresh(diagramListsKey),
});

export const removeDiagram = mutationOptions({
  mutationFn: (d: { id: string; name: string }) =>
    answer(client.DELETE('/api/diagrams/{id}', at(d.id))),
  // Only the lists: the page of what was deleted must not ask for it again.
  onSuccess: refresh(diagramListsKey),
});

export const restoreDiagram = mutationOptions({
  mutationFn: (id: string) => answer(client.POST('/api/diagrams/{id}/restore', at(id))),
  onSuccess: refresh(diagramsKey),
});

export const keepDiagram = mutationOptions({
  mutationFn: (d: Diagram) => keepDraft(d.id, d.version),
  onSuccess: (d, _asked, _kept, { client: queries }) => storeDiagram(queries, d),
  // What was changed elsewhere comes in, and can be kept after it was looked at.
  onError: (e, d, _kept, { client: queries }) => isStale(e) && rereadDiagram(queries, d.id),
});

/** Says which way the indexes of a diagram run. */
export const chooseSense = mutationOptions({
  mutationFn: ({ diagram: d, indexing }: { diagram: Diagram; indexing: 'dialled' | 'shared' }) =>
    answer(
      client.POST('/api/diagrams/{id}/sense', {
        ...at(d.id),
        body: { indexing, version: d.version },
      }),
    ),
  onSuccess: (d, _asked, _kept, { client: queries }) => storeDiagram(queries, d),
  onError: (e, { diagram }, _kept, { client: queries }) =>
    isStale(e) && rereadDiagram(queries, diagram.id),
});
