import { queryOptions } from '@tanstack/react-query';
import { answer, client } from './client';
import type { components } from './schema';
import { stonesKey } from './stones';

/** How a stone is shaped and held, and the check before it is glued. */

export type GluingPage = components['schemas']['GluingPage'];
export type Mounting = components['schemas']['Mounting'];
export type MountedDop = components['schemas']['MountedDop'];
export type Preform = components['schemas']['Preform'];
export type GlueSort = components['schemas']['GlueSort'];
export type CheckPage = components['schemas']['CheckPage'];
export type Finding = components['schemas']['Finding'];

const at = (id: string) => ({ params: { path: { id } } });

export const gluingQuery = (id: string) =>
  queryOptions({
    queryKey: [...stonesKey, id, 'gluing'],
    queryFn: () => answer(client.GET('/api/stones/{id}/gluing', at(id))),
    // It also goes by kit and machine, which change elsewhere.
    refetchOnMount: 'always',
  });

export const checkQuery = (id: string) =>
  queryOptions({
    queryKey: [...stonesKey, id, 'check'],
    queryFn: () => answer(client.GET('/api/stones/{id}/check', at(id))),
    refetchOnMount: 'always',
  });

export const judgeRoundness = (body: { readings: number[]; wanted: number }) =>
  answer(client.POST('/api/roundness', { body }));
