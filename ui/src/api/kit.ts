import { keepPreviousData, mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Pass } from './client';
import { noticesQuery } from './copies';
import { making } from './making';
import { refresh } from './refresh';
import type { components } from './schema';
import { materialsQuery, settingsQuery } from './settings';
import type { Versioned } from './versioned';

/** The kit: what is read of the shelf, and what changes it. */

export type Item = components['schemas']['Item'];
export type Shelved = components['schemas']['Shelved'];
export type ItemPage = components['schemas']['ItemPage'];
export type ItemKind = Item['kind'];
export type Ladder = components['schemas']['Ladder'];
export type Rung = components['schemas']['Rung'];
export type StarterThing = components['schemas']['StarterThing'];
export type AddItem = components['schemas']['AddItemRequest'];
export type Happened = components['schemas']['HappenedRequest'];
export type CleanWay = components['schemas']['CleanWay'];

const kit = ['kit'] as const;

/** Everything on the shelf, what is gone too. */
export const shelfQuery = queryOptions({
  queryKey: [...kit, 'shelf'],
  queryFn: async () => (await answer(client.GET('/api/kit'))).items,
});

/** One thing with its story. */
export const itemQuery = (id: string) =>
  queryOptions({
    queryKey: [...kit, 'item', id],
    queryFn: () => answer(client.GET('/api/kit/{id}', { params: { path: { id } } })),
  });

/** The passes of a stone as a ladder of grits; without passes those that a plan would begin with. */
export const ladderQuery = (material: string, passes: Pass[]) =>
  queryOptions({
    queryKey: [...kit, 'ladder', material, passes],
    queryFn: () => answer(client.POST('/api/kit/ladder', { body: { material, passes } })),
    placeholderData: keepPreviousData,
    enabled: material !== '',
  });

/** What a beginner needs on a machine, with laps of a diameter in mm. */
export const starterQuery = (machine: string, diameter: number) =>
  queryOptions({
    queryKey: [...kit, 'starter', machine, diameter],
    queryFn: async () =>
      (await answer(client.GET('/api/kit/starter', { params: { query: { machine, diameter } } })))
        .things,
    placeholderData: keepPreviousData,
  });

// A gear that comes or goes is one of its machine's too, Today tells what is due, and a material is
// polished with what the shelf has.
const stale = refresh(kit, noticesQuery.queryKey, settingsQuery.queryKey, materialsQuery.queryKey);

export const addItem = mutationOptions({
  mutationFn: (body: AddItem) =>
    making(['item', body], (head) => client.POST('/api/kit', { body, ...head })),
  onSuccess: stale,
});

/** Several things at once, one after the other; what was added stays where one is refused. */
export const addItems = mutationOptions({
  mutationFn: async (list: AddItem[]) => {
    for (const body of list)
      await making(['item', body], (head) => client.POST('/api/kit', { body, ...head }));
  },
  onSettled: (_data, _error, asked, kept, context) => stale(_data, asked, kept, context),
});

/** Puts the other side of a lap on the shelf. */
export const addOtherSide = mutationOptions({
  mutationFn: (id: string) =>
    making(['other side', id], (head) =>
      client.POST('/api/kit/{id}/back', { params: { path: { id } }, ...head }),
    ),
  onSuccess: stale,
});

export const dropItem = mutationOptions({
  mutationFn: (id: string) => answer(client.DELETE('/api/kit/{id}', { params: { path: { id } } })),
  onSuccess: stale,
});

/** Nothing happened yet: what a request says beside what it is about. */
export const nothing: Omit<Happened, 'kind'> = {
  item: '',
  name: '',
  family: '',
  grain: 0,
  way: '',
  flatness: null,
  material: '',
  hardness: 0,
  on: '',
  have: 0,
};

export const tellItem = mutationOptions({
  mutationFn: ({ id, ...body }: Happened & { id: string }) =>
    making(['happened', id, body], (head) =>
      client.POST('/api/kit/{id}/log', { params: { path: { id } }, body, ...head }),
    ),
  onSuccess: stale,
});

export const undoTold = mutationOptions({
  mutationFn: ({ id, event }: { id: string; event: string }) =>
    answer(client.DELETE('/api/kit/{id}/log/{event}', { params: { path: { id, event } } })),
  onSuccess: stale,
});

/** What is said of a thing, written over the version that was read. */
export const itemRecord = (id: string): Versioned<Item, ItemPage> => ({
  write: (item, version) =>
    answer(client.PUT('/api/kit/{id}', { params: { path: { id } }, body: { ...item, version } })),
  read: () => answer(client.GET('/api/kit/{id}', { params: { path: { id } } })),
  versionOf: (page) => page.item.version,
});

/** What is stale once a thing was changed. */
export const kitKey = kit;
