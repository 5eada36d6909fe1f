import { keepPreviousData, mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, client } from './client';
import { making } from './making';
import { refresh } from './refresh';
import type { components } from './schema';
import { stonesKey } from './stones';

export type CameBack = components['schemas']['CameBack'];
export type ReturnedStone = components['schemas']['ReturnedStone'];
export type RecutAsked = components['schemas']['RecutAsked'];
export type RecutWays = components['schemas']['RecutWays'];
export type RecutWay = components['schemas']['RecutWay'];
export type RecutFigures = components['schemas']['RecutFigures'];
export type RecutChosen = components['schemas']['RecutChosen'];
export type AnotherRecut = components['schemas']['AnotherRecut'];
export type MeasuredStone = components['schemas']['MeasuredStone'];
export type Likeness = components['schemas']['Likeness'];
export type Damage = components['schemas']['Damage'];

/** A finished stone as it is before it is recut. */
export const returnedQuery = (of: CameBack) =>
  queryOptions({
    queryKey: [...stonesKey, 'returned', of],
    queryFn: ({ signal }) => answer(client.POST('/api/recuts/stone', { body: of, signal })),
    retry: false,
  });

/** Diagrams of the library that come nearest to a measured stone. */
export const likenessesQuery = (measured: MeasuredStone) =>
  queryOptions({
    queryKey: [...stonesKey, 'likenesses', measured],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/recuts/likenesses', { body: measured, signal })),
    retry: false,
  });

/** The ways to recut a stone. Those of what was marked before stay until the new ones are there. */
export const recutWaysQuery = (asked: RecutAsked) =>
  queryOptions({
    queryKey: [...stonesKey, 'recut ways', asked],
    queryFn: ({ signal }) => answer(client.POST('/api/recuts/ways', { body: asked, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** The largest stone of another diagram in one that is recut. It is searched for some seconds. */
export const anotherQuery = (asked: RecutAsked, diagram: string) =>
  queryOptions({
    queryKey: [...stonesKey, 'another recut', asked, diagram],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/recuts/another', { body: { asked, diagram }, signal })),
    retry: false,
    staleTime: Infinity,
  });

/** Makes a work of a way to recut a stone. */
export const recutSo = mutationOptions({
  mutationFn: (body: RecutChosen) =>
    making(['recut so', body], (head) => client.POST('/api/recuts', { body, ...head })),
  onSuccess: refresh(stonesKey),
});
