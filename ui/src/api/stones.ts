import {
  infiniteQueryOptions,
  keepPreviousData,
  mutationOptions,
  queryOptions,
  type QueryClient,
} from '@tanstack/react-query';
import {
  answer,
  client,
  type Choices,
  type Finish,
  type Intake,
  type LeanRequest,
  type MovedRequest,
  type SeatRequest,
  type Photo,
  type RepairPage,
  type SlipName,
  type StonePage,
  type TierChange,
  type WayOut,
} from './client';
import { diagramListsKey } from './diagrams';
import { making } from './making';
import { sendPictures } from './pictures';
import { refresh, reread } from './refresh';
import { roughKey } from './rough';
import { settingsQuery } from './settings';
import type { paths } from './schema';
import type { Versioned } from './versioned';

/** Stones, runs, repairs and the logbook: what is read of them, and what changes them. */

/** What everything about stones begins with: a change of one may change any list. */
export const stonesKey = ['stones'];

/** Reads everything about stones anew. */
export const rereadStones = (queries: QueryClient): Promise<void> => reread(queries, stonesKey);

const at = (id: string) => ({ params: { path: { id } } });

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

/** A stone at one of its works, the present one where none is named. */
export const stoneQuery = (id: string, work = '') =>
  queryOptions({
    queryKey: [...stonesKey, id, { work }],
    queryFn: () =>
      answer(client.GET('/api/stones/{id}', { params: { path: { id }, query: { work } } })),
    refetchOnMount: 'always',
  });

/** A stone as lists show it. */
export const stoneLineQuery = (id: string) =>
  queryOptions({
    queryKey: [...stonesKey, id, 'line'],
    queryFn: () => answer(client.GET('/api/stones/{id}/line', at(id))),
  });

export const scriptQuery = (id: string, work = '') =>
  queryOptions({
    queryKey: [...stonesKey, id, 'script', { work }],
    queryFn: () =>
      answer(client.GET('/api/stones/{id}/script', { params: { path: { id }, query: { work } } })),
  });

/**
 * A stone as it was really cut, beside its plan, and after one more facet where one is named. Heard is how much of
 * its log the server has: more of it may be another stone.
 */
export const asCutQuery = (id: string, work = '', next = '', heard = 0) =>
  queryOptions({
    queryKey: [...stonesKey, id, 'as-cut', { work, next, heard }],
    queryFn: async () => {
      const asked = client.GET('/api/stones/{id}/as-cut', {
        params: { path: { id }, query: { work, next } },
      });
      return { ...(await answer(asked)), heard };
    },
    placeholderData: keepPreviousData,
  });

export const runQuery = (id: string) =>
  queryOptions({
    queryKey: [...stonesKey, 'run', id],
    queryFn: () => answer(client.GET('/api/runs/{id}', at(id))),
    refetchOnMount: 'always',
  });

export const repairQuery = (id: string, work = '') =>
  queryOptions({
    queryKey: [...stonesKey, 'repair', id, { work }],
    queryFn: () =>
      answer(client.GET('/api/repairs/{id}', { params: { path: { id }, query: { work } } })),
    refetchOnMount: 'always',
  });

/** What a plan comes to; `revision` is the version of the diagram, "" its present one. */
export const assessmentQuery = (diagramId: string, revision: string, choices: Choices) =>
  queryOptions({
    queryKey: ['assess', diagramId, revision, choices],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/assess', { body: { diagramId, revision, choices }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** A diagram fitted to a plan's material and machine. */
export const fitQuery = (
  body: paths['/api/fit']['post']['requestBody']['content']['application/json'],
) =>
  queryOptions({
    queryKey: ['fit', body],
    queryFn: ({ signal }) => answer(client.POST('/api/fit', { body, signal })),
    retry: false,
    staleTime: Infinity,
    gcTime: 10_000,
  });

interface NewPlan {
  name: string;
  diagramId: string;
  choices: Choices;
}

/** Plans a stone. */
export const planStone = mutationOptions({
  mutationFn: (body: NewPlan & { piece: string }) =>
    making(['stone', body], (head) => client.POST('/api/stones', { body, ...head })),
  onSuccess: refresh(stonesKey, roughKey),
});

/** Plans several stones that are cut together. */
export const planRun = mutationOptions({
  mutationFn: (body: NewPlan & { order: 'tier' | 'stone'; stones: number }) =>
    making(['run', body], (head) => client.POST('/api/runs', { body, ...head })),
  onSuccess: refresh(stonesKey),
});

type TableSeen = NonNullable<paths['/api/stones/{id}/adapter/tilt']['get']['parameters']['query']>;

/** The side on which the mark of the lap begins. */
export type Begins = NonNullable<TableSeen['begins']>;

/** What levels a table whose mark begins on a side, nothing while no side is chosen. */
export const tiltedTableQuery = (stone: string, begins: Begins | undefined, mm: number) =>
  queryOptions({
    queryKey: [...stonesKey, 'tilted-table', stone, begins, mm],
    queryFn: () =>
      answer(
        client.GET('/api/stones/{id}/adapter/tilt', {
          params: { path: { id: stone }, query: { begins: begins!, mm } },
        }),
      ),
    enabled: begins !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Keeps the true angle of the table adapter, for the machine and for this stone. */
export const setAdapter = mutationOptions({
  mutationFn: ({ stone, ...body }: { stone: string; readings: number[]; version: number }) =>
    answer(client.PUT('/api/stones/{id}/adapter', { ...at(stone), body })),
  onSuccess: refresh(stonesKey, settingsQuery.queryKey),
});

type AtWheel =
  paths['/api/stones/{id}/at-wheel']['put']['requestBody']['content']['application/json'];

/** Changes the order, the girdle's allowance or the size of a plan in the middle of the work. */
export const changeAtWheel = mutationOptions({
  mutationFn: ({ stone, ...body }: Partial<AtWheel> & { stone: string; version: number }) =>
    answer(
      client.PUT('/api/stones/{id}/at-wheel', {
        ...at(stone),
        body: { visiting: '', girdleSpare: null, across: null, ...body },
      }),
    ),
  onSuccess: refresh(stonesKey),
});

/** What follows of a layer of changes at the wheel, nothing kept. */
export const adaptationQuery = (stone: string, changes: readonly TierChange[]) =>
  queryOptions({
    queryKey: [...stonesKey, 'adaptation', stone, changes],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/stones/{id}/adaptation', {
          ...at(stone),
          body: { changes: [...changes] },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** How the second side can be cut in the height in mm that is left. */
export const secondSideQuery = (stone: string, left: number | undefined) =>
  queryOptions({
    queryKey: [...stonesKey, 'second side', stone, left],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/stones/{id}/second-side', {
          ...at(stone),
          body: { left: left! },
          signal,
        }),
      ),
    enabled: left !== undefined,
    retry: false,
  });

/** How a stone leans whose girdle is aslant, and how it is dialled then. */
export const leanQuery = (stone: string, body: LeanRequest | undefined) =>
  queryOptions({
    queryKey: [...stonesKey, 'lean', stone, body],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/stones/{id}/lean', { ...at(stone), body: body!, signal })),
    enabled: body !== undefined,
    retry: false,
  });

/** Facets to bring flush in a setup, to find how a stone sits. It is asked again as the server hears of more cuts. */
export const flushQuery = (stone: string, setup: string, heard: number) =>
  queryOptions({
    queryKey: [...stonesKey, 'flush', stone, setup, { heard }],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/stones/{id}/flush', {
          params: { path: { id: stone }, query: { setup } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    refetchOnMount: 'always',
  });

/** How a stone sits, from facets that were brought flush. */
export const movedQuery = (stone: string, body: MovedRequest | undefined) =>
  queryOptions({
    queryKey: [...stonesKey, 'moved', stone, body],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/stones/{id}/moved', { ...at(stone), body: body!, signal })),
    enabled: body !== undefined,
    retry: false,
  });

/** How a diagram's solid can be held one time after the other, with nothing dialled steeper than so many degrees. */
export const dopUpsQuery = (id: string, steepest: number) =>
  queryOptions({
    queryKey: ['dop-ups', id, steepest],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/diagrams/{id}/dop-ups', {
          params: { path: { id }, query: { steepest } },
          signal,
        }),
      ),
    retry: false,
  });

/** What a stone still needs to fill a setting. */
export const seatQuery = (stone: string, body: SeatRequest) =>
  queryOptions({
    queryKey: [...stonesKey, 'seat', stone, body],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/stones/{id}/seat', { ...at(stone), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Corrects what is dialled for a stone that sits otherwise. */
export const correctMoved = mutationOptions({
  mutationFn: ({ stone, ...body }: MovedRequest & { stone: string }) =>
    answer(client.PUT('/api/stones/{id}/moved', { ...at(stone), body })),
  onSuccess: refresh(stonesKey),
});

/** Corrects what is dialled for a stone that leans. */
export const leanStone = mutationOptions({
  mutationFn: ({ stone, ...body }: LeanRequest & { stone: string }) =>
    answer(client.PUT('/api/stones/{id}/lean', { ...at(stone), body })),
  onSuccess: refresh(stonesKey),
});

/** Changes angles or stops of a stone's plan at the wheel. */
export const adaptStone = mutationOptions({
  mutationFn: ({ stone, ...body }: { stone: string; changes: TierChange[]; version: number }) =>
    answer(client.PUT('/api/stones/{id}/layer', { ...at(stone), body })),
  onSuccess: refresh(stonesKey),
});

/** The ways out of what went wrong with a stone. Heard is how much of its log the server has: more of it may be another stone. */
export const waysOutQuery = (id: string, heard: number) =>
  queryOptions({
    queryKey: [...stonesKey, id, 'ways out', { heard }],
    queryFn: ({ signal }) => answer(client.GET('/api/stones/{id}/ways-out', { ...at(id), signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Keeps a diagram of a stone as it was really cut. */
export const keepAsCut = mutationOptions({
  mutationFn: (stone: string) =>
    making(['as cut', stone], (head) =>
      client.POST('/api/stones/{id}/as-cut/diagram', { ...at(stone), ...head }),
    ),
  onSuccess: refresh(diagramListsKey),
});

/** Chooses a way out: the plan goes on from there. */
export const mendStone = mutationOptions({
  mutationFn: ({ stone, ...body }: { stone: string; way: WayOut['way']; version: number }) =>
    answer(client.PUT('/api/stones/{id}/mending', { ...at(stone), body })),
  onSuccess: refresh(stonesKey),
});

/** Takes back what a stone was mended or corrected by last. */
export const takePlanBack = mutationOptions({
  mutationFn: ({ stone, ...body }: { stone: string; version: number }) =>
    answer(client.PUT('/api/stones/{id}/plan/undo', { ...at(stone), body })),
  onSuccess: refresh(stonesKey),
});

/** What a stone would look like if one slip was made. Heard is how much of its log the server has. */
export const slipsQuery = (id: string, heard: number) =>
  queryOptions({
    queryKey: [...stonesKey, id, 'slips', { heard }],
    queryFn: ({ signal }) => answer(client.GET('/api/stones/{id}/slips', { ...at(id), signal })),
    placeholderData: keepPreviousData,
  });

/** Takes the look of a slip for what was really cut. */
export const takeSlip = mutationOptions({
  mutationFn: ({ stone, ...body }: SlipName & { stone: string }) =>
    answer(client.POST('/api/stones/{id}/slips', { ...at(stone), body })),
  onSuccess: refresh(stonesKey),
});

/** Plans a finished stone anew. */
export const planRecut = mutationOptions({
  mutationFn: ({
    stone,
    ...body
  }: {
    stone: string;
    diagramId: string;
    choices: Choices;
    why: string;
    version: number;
  }) =>
    making(['recut', stone, body], (head) =>
      client.POST('/api/stones/{id}/recuts', { ...at(stone), body, ...head }),
    ),
  onSuccess: refresh(stonesKey),
});

/** Takes in a stone that was not cut here. */
export const takeIn = mutationOptions({
  mutationFn: (body: { name: string; intake: Intake }) =>
    making(['repair', body], (head) =>
      client.POST('/api/repairs', { body: { ...body, version: 0 }, ...head }),
    ),
  onSuccess: refresh(stonesKey),
});

/** Takes in a stone that was finished here. */
export const takeBack = mutationOptions({
  mutationFn: ({ stone, ...body }: { stone: string; intake: Intake; version: number }) =>
    making(['back', stone, body], (head) =>
      client.POST('/api/stones/{id}/repairs', { ...at(stone), body, ...head }),
    ),
  onSuccess: refresh(stonesKey),
});

/** Adds photos to a stone, as it is before its work or after. */
export const addPhotos = mutationOptions({
  mutationFn: ({ stone, shows, files }: { stone: string; shows: Photo['shows']; files: File[] }) =>
    sendPictures<Photo>(`/api/stones/${stone}/photos?shows=${shows}`, files),
  // Where one is refused, those before it are there.
  onSettled: (_data, _error, _asked, _kept, { client: queries }) => void rereadStones(queries),
});

export const dropPhoto = mutationOptions({
  mutationFn: ({ stone, photo }: { stone: string; photo: string }) =>
    answer(
      client.DELETE('/api/stones/{id}/photos/{photo}', {
        params: { path: { id: stone, photo } },
      }),
    ),
  onSettled: (_data, _error, _asked, _kept, { client: queries }) => void rereadStones(queries),
});

/** The plan of a stone that is not finished. */
export const planRecord = (id: string): Versioned<Choices, StonePage> => ({
  write: (choices, version) =>
    answer(client.PUT('/api/stones/{id}/plan', { ...at(id), body: { choices, version } })),
  read: () => answer(client.GET('/api/stones/{id}', at(id))),
  versionOf: (p) => p.summary.version,
});

const writeFinish = (id: string) => (card: Omit<Finish, 'version' | 'saved'>, version: number) =>
  answer(
    client.PUT('/api/stones/{id}/finish', {
      ...at(id),
      body: { ...card, version, saved: new Date(0).toISOString() },
    }),
  );

export type Card = Omit<Finish, 'version' | 'saved'>;

/** The logbook card of a stone. */
export const cardRecord = (id: string): Versioned<Card, StonePage> => ({
  write: writeFinish(id),
  read: () => answer(client.GET('/api/stones/{id}', at(id))),
  versionOf: (p) => p.summary.finish?.version ?? 0,
});

type PrintedCard = paths['/api/stones/{id}/print/{paper}']['get']['parameters'];

/** The card of a finished stone, as it is printed. */
export const printedCardQuery = (path: PrintedCard['path'], query: PrintedCard['query']) =>
  queryOptions({
    queryKey: [...stonesKey, path.id, 'print', path.paper, query],
    queryFn: () =>
      answer(client.GET('/api/stones/{id}/print/{paper}', { params: { path, query } })),
    placeholderData: keepPreviousData,
  });

/** What was written when a stone came in for repair. */
export const intakeRecord = (
  id: string,
): Versioned<{ name: string; intake: Intake }, RepairPage> => ({
  write: (body, version) =>
    answer(client.PUT('/api/repairs/{id}', { ...at(id), body: { ...body, version } })),
  read: () => answer(client.GET('/api/repairs/{id}', at(id))),
  versionOf: (p) => p.summary.version,
});

/** What was done in a repair, and when the stone was given back. */
export const repairCardRecord = (id: string): Versioned<Card, RepairPage> => ({
  write: writeFinish(id),
  read: () => answer(client.GET('/api/repairs/{id}', at(id))),
  versionOf: (p) => p.summary.finish?.version ?? 0,
});

/** Puts what was read of a stone anew where its page looks. */
export function storeStone(queries: QueryClient, page: StonePage): void {
  queries.setQueryData(stoneQuery(page.summary.id).queryKey, page);
}

export function storeRepair(queries: QueryClient, page: RepairPage): void {
  queries.setQueryData(repairQuery(page.summary.id).queryKey, page);
}

/**
 * What a bench shows, fetched once, apart from what other rooms hold: a lost server must not stop
 * the wheel. `fetched` may give what the browser keeps instead.
 */
export const benchQuery = <T>(path: string, fetched: () => Promise<T>) =>
  queryOptions({ queryKey: ['bench', path], queryFn: fetched, staleTime: Infinity, gcTime: 0 });

export const fetchScript = (id: string, signal: AbortSignal) =>
  answer(client.GET('/api/stones/{id}/script', { ...at(id), signal }));

export const fetchRunScript = (id: string, signal: AbortSignal) =>
  answer(client.GET('/api/runs/{id}/script', { ...at(id), signal }));

export const fetchRepair = (id: string, signal: AbortSignal) =>
  answer(client.GET('/api/repairs/{id}', { ...at(id), signal }));
