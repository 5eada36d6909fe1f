import { keepPreviousData, mutationOptions, queryOptions } from '@tanstack/react-query';
import {
  answer,
  client,
  type Draft,
  type Held,
  type PlacedSolid,
  type Point,
  type ReadFile,
  type Reshape,
  type Rule,
  type StopParts,
  type Wish,
} from './client';
import type { paths } from './schema';

/** What the server computes of a diagram as it is sent, without keeping anything. */

type Body<Path extends keyof paths> = paths[Path] extends {
  post: { requestBody?: { content: { 'application/json': infer B } } };
}
  ? B
  : never;

/** An answer for one body: it stays right, is soon forgotten, and no other try would change it. */
const once = { retry: false, staleTime: Infinity, gcTime: 10_000 } as const;

let serials = 0;

/**
 * The stone that a draft makes: without the tiers that are left off, on its own gear or another,
 * with the plane of one tier held elsewhere than its stop says.
 */
export const solveQuery = (draft: Draft, off: string[], gear: number, held: Held | null) =>
  queryOptions({
    queryKey: ['solve', draft, off, gear, held],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/solve', {
          body: { serial: ++serials, draft, off, gear, held },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 10_000,
  });

/** Angles that bring a tier to a second meet, at a finished width in mm. */
export const findAngleQuery = (draft: Draft, tier: number, width: number) =>
  queryOptions({
    queryKey: ['find angle', draft, tier, width],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/angles/find', { body: { draft, tier, width }, signal })),
    ...once,
  });

/** Where the last tier of a draft can stop. */
export const pullQuery = (draft: Draft | null, tier: number) =>
  queryOptions({
    queryKey: ['pull', draft],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/pull', { body: { draft: draft!, tier }, signal })),
    enabled: draft !== null,
    ...once,
  });

/** The stop that a cutter would measure with a tier's plane at a distance. */
export const stopAt = (draft: Draft, tier: number, distance: number): Promise<string> =>
  answer(client.POST('/api/pull/stop', { body: { draft, tier, distance } })).then((a) => a.stop);

export const reshape = (draft: Draft, tier: number, how: Reshape): Promise<Draft> =>
  answer(client.POST('/api/reshape', { body: { draft, tier, how } })).then((a) => a.draft);

/** The draft that a reshaping would make. */
export const reshapeQuery = (draft: Draft, tier: number, how: Reshape) =>
  queryOptions({
    queryKey: ['reshape', draft, tier, how],
    queryFn: () => reshape(draft, tier, how),
    placeholderData: keepPreviousData,
    ...once,
  });

/** A stop that is typed, taken apart for those who choose its parts one by one. */
export const stopPartsQuery = (stop: string) =>
  queryOptions({
    queryKey: ['stop parts', stop],
    queryFn: () => answer(client.POST('/api/stops/parts', { body: { stop } })),
    ...once,
  });

/** The stop that parts make, as it is typed. */
export const writeStop = mutationOptions({
  mutationFn: (parts: StopParts) => answer(client.POST('/api/stops/text', { body: parts })),
});

/** Whether a draft can be cut in its order, and a better one. */
export const sequenceQuery = (draft: Draft) =>
  queryOptions({
    queryKey: ['sequence', draft],
    queryFn: ({ signal }) => answer(client.POST('/api/sequence', { body: { draft }, signal })),
    ...once,
  });

/** Stops for a draft: those that are missing, or plainer ones. */
export const stopsQuery = (draft: Draft) =>
  queryOptions({
    queryKey: ['stops', draft],
    queryFn: ({ signal }) => answer(client.POST('/api/stops', { body: { draft }, signal })),
    ...once,
  });

export type AnglesBody = Body<'/api/angles'>;

/** The angles of a draft moved to another index, and rounded. */
export const anglesQuery = (body: AnglesBody) =>
  queryOptions({
    queryKey: ['angles', body],
    queryFn: ({ signal }) => answer(client.POST('/api/angles', { body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 60_000,
  });

/** How well each gear of the machine carries a draft; gaps are told at a width in mm. */
export const gearsQuery = (draft: Draft, width: number) =>
  queryOptions({
    queryKey: ['gears', draft, width],
    queryFn: ({ signal }) => answer(client.POST('/api/gears', { body: { draft, width }, signal })),
  });

/** How the meets of a draft come out at a size. */
export const loupeQuery = (body: Body<'/api/loupe'>) =>
  queryOptions({
    queryKey: ['loupe', body],
    queryFn: ({ signal }) => answer(client.POST('/api/loupe', { body, signal })),
    retry: false,
  });

/** A diagram proposed for a wish. */
export const quickQuery = (body: Wish) =>
  queryOptions({
    queryKey: ['quick', body],
    queryFn: ({ signal }) => answer(client.POST('/api/diagrams/quick', { body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });

/** A regular solid or a prism as a diagram. */
export const ruleQuery = (body: Body<'/api/solids/rule'>) =>
  queryOptions({
    queryKey: ['solid', body],
    queryFn: ({ signal }) => answer(client.POST('/api/solids/rule', { body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });

/** The faces of a diagram's solid that take numbers. */
export const dieQuery = (id: string) =>
  queryOptions({
    queryKey: ['die', id],
    queryFn: () => answer(client.GET('/api/diagrams/{id}/die', { params: { path: { id } } })),
  });

export type { Rule };

/** A solid that came in as a file, and how it is held. */
export interface SolidFile {
  /** The file's name without its extension. */
  name: string;
  /** The file in base64. */
  data: string;
  up: Point;
  centroid: boolean;
  /** Faces that nearly lie in one plane stay facets of their own. */
  apart: boolean;
  gear: number;
  refractiveIndex: number;
}

export interface HeldSolid {
  file: SolidFile;
  placed: PlacedSolid;
}

export const placeSolid = async (file: SolidFile): Promise<HeldSolid> => ({
  file,
  placed: await answer(client.POST('/api/solids/read', { body: file })),
});

export const holdSolid = mutationOptions({ mutationFn: placeSolid });

/** How a sheet is read: which of several angles counts, and the planned width in mm as typed. */
export interface HowToRead {
  angles: number;
  width: string;
}

/** Reads a diagram file or a pasted table. */
export const readTable = (name: string, text: string, how: HowToRead): Promise<ReadFile> =>
  answer(client.POST('/api/diagrams/read', { body: { name, text, ...how } }));
