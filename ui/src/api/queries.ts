import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { answer, client, type Diagram, type DiagramPage } from './client';
import type { paths } from './schema';

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

/** What every list of diagrams begins with: a change of any diagram may change any of them. */
export const diagramsKey = ['diagrams'];
/** Every list of diagrams, and none of them alone. */
export const diagramListsKey = [...diagramsKey, 'list'];

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
    refetchInterval: (q) => (q.state.data?.pages.some((p) => p.waiting > 0) ? 700 : false),
  });

export const diagramQuery = (id: string) =>
  queryOptions({
    queryKey: ['diagrams', id],
    queryFn: () => answer(client.GET('/api/diagrams/{id}', { params: { path: { id } } })),
    // The machine judges a version soon after it was kept.
    refetchInterval: (q) =>
      q.state.data && q.state.data.revision !== '' && !q.state.data.judged ? 700 : false,
  });

/** A diagram's page once the diagram has changed; another version has to be judged anew. */
export const withChange = (d: Diagram) => (page: DiagramPage | undefined) =>
  page && { ...page, ...d, judged: d.revision === page.revision ? page.judged : null };

/** What everything about stones begins with. */
export const stonesKey = ['stones'];

export const todayQuery = queryOptions({
  queryKey: [...stonesKey, 'today'],
  queryFn: () => answer(client.GET('/api/today')),
});

export type StoneFilter = NonNullable<paths['/api/stones']['get']['parameters']['query']>;

/** The stones, page by page. */
export const stonesQuery = (filter: StoneFilter) =>
  infiniteQueryOptions({
    queryKey: [...stonesKey, 'list', filter],
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/stones', { params: { query: { ...filter, after: pageParam } } })),
    initialPageParam: '',
    getNextPageParam: (page) => page.next || undefined,
    placeholderData: keepPreviousData,
  });

/** What was finished, page by page, with the sums of all of it. */
export const logbookQuery = infiniteQueryOptions({
  queryKey: [...stonesKey, 'logbook'],
  queryFn: ({ pageParam }) =>
    answer(client.GET('/api/logbook', { params: { query: { after: pageParam } } })),
  initialPageParam: '',
  getNextPageParam: (page) => page.next || undefined,
});

/** The small drawing of a version. A version never changes. */
export const pictureQuery = (hash: string) =>
  queryOptions({
    queryKey: ['pictures', hash],
    queryFn: () => answer(client.GET('/api/pictures/{hash}', { params: { path: { hash } } })),
    staleTime: Infinity,
    enabled: hash !== '',
  });

/** A stone at one of its works, the present one where none is named. */
export const stoneQuery = (id: string, work = '') =>
  queryOptions({
    queryKey: ['stones', id, { work }],
    queryFn: () =>
      answer(client.GET('/api/stones/{id}', { params: { path: { id }, query: { work } } })),
  });

/** A stone as lists show it. */
export const stoneLineQuery = (id: string) =>
  queryOptions({
    queryKey: ['stones', id, 'line'],
    queryFn: () => answer(client.GET('/api/stones/{id}/line', { params: { path: { id } } })),
  });

export const scriptQuery = (id: string, work = '') =>
  queryOptions({
    queryKey: ['stones', id, 'script', { work }],
    queryFn: () =>
      answer(client.GET('/api/stones/{id}/script', { params: { path: { id }, query: { work } } })),
  });

/** What a plan of a diagram begins with. It follows the settings, so it is asked anew each time. */
export const proposalQuery = (id: string, stone = '') =>
  queryOptions({
    queryKey: ['diagrams', id, 'proposal', { stone }],
    queryFn: () =>
      answer(
        client.GET('/api/diagrams/{id}/proposal', { params: { path: { id }, query: { stone } } }),
      ),
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

export const repairQuery = (id: string, work = '') =>
  queryOptions({
    queryKey: ['stones', 'repair', id, { work }],
    queryFn: () =>
      answer(client.GET('/api/repairs/{id}', { params: { path: { id }, query: { work } } })),
  });

export const tintsQuery = queryOptions({
  queryKey: ['tints'],
  queryFn: async () => (await answer(client.GET('/api/tints'))).tints,
  staleTime: Infinity,
});
