import {
  infiniteQueryOptions,
  keepPreviousData,
  mutationOptions,
  queryOptions,
} from '@tanstack/react-query';
import { answer, client, eachLine } from './client';
import type { LongWork } from './longWork';
import { making } from './making';
import { sendPictures } from './pictures';
import { refresh, reread } from './refresh';
import type { components } from './schema';
import type { Versioned } from './versioned';

/** Parcels and pieces of rough, and the stones that were found in them. */

export type Parcel = components['schemas']['Parcel'];
export type ParcelLine = components['schemas']['ParcelLine'];
export type PieceLine = components['schemas']['PieceLine'];
export type Piece = components['schemas']['PieceView'];
export type PieceForm = components['schemas']['PieceRequest'];
export type Rough = components['schemas']['Rough'];
export type Flaw = components['schemas']['RoughFlaw'];
export type Trim = components['schemas']['RoughTrim'];
export type Zone = components['schemas']['RoughZone'];
export type RoughColour = components['schemas']['RoughColour'];
export type Sighting = components['schemas']['Sighting'];
export type Sighted = components['schemas']['Sighted'];
export type RoughWorked = components['schemas']['RoughWorked'];
export type Candidate = components['schemas']['Candidate'];
export type StonePlace = components['schemas']['StonePlace'];
export type FittingLine = components['schemas']['FittingLine'];
export type Fitting = components['schemas']['FittingRequest'];
export type LookedAt = components['schemas']['LookedAt'];
export type Survey = components['schemas']['RoughSurvey'];
export type Silhouette = components['schemas']['RoughSilhouette'];
export type Surveyed = components['schemas']['SurveyView'];
export type FaceAsked = Omit<components['schemas']['FaceRequest'], 'grid'>;
export type Face = components['schemas']['FaceView'];
export type PiecePhoto = components['schemas']['PiecePhoto'];
export type PhotoMark = components['schemas']['PhotoMark'];
export type Variant = components['schemas']['Variant'];
export type VariantLine = components['schemas']['VariantLine'];
export type Split = components['schemas']['Split'];
export type SplitLine = components['schemas']['SplitLine'];
export type Fate = PieceForm['fate'];

export interface PieceFilter {
  text: string;
  fate: Fate | '';
}

const rough = ['rough'] as const;
const parcels = ['parcels'] as const;

export const parcelsQuery = queryOptions({
  queryKey: parcels,
  queryFn: async () => (await answer(client.GET('/api/parcels'))).parcels,
});

export const piecesQuery = (filter: PieceFilter) =>
  infiniteQueryOptions({
    queryKey: [...rough, 'list', filter],
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/rough', {
          params: { query: { ...filter, fate: filter.fate || undefined, after: pageParam } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.next || undefined,
    placeholderData: keepPreviousData,
  });

export const pieceQuery = (id: string) =>
  queryOptions({
    queryKey: [...rough, 'piece', id],
    queryFn: () => answer(client.GET('/api/rough/{id}', { params: { path: { id } } })),
  });

/** What a survey tells of a piece of a material that weighs so many carats, 0 where nobody weighed. */
export const surveyQuery = (survey: Survey, material: string, carat: number) =>
  queryOptions({
    queryKey: [...rough, 'survey', survey, material, carat],
    queryFn: () => answer(client.POST('/api/rough/survey', { body: { survey, material, carat } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** The solid of a piece as it is described, kept or not. */
export const workedQuery = (form: PieceForm) =>
  queryOptions({
    queryKey: [
      ...rough,
      'worked',
      form.rough.material,
      form.rough.solid,
      form.rough.trims,
      form.weighed,
      form.unit,
    ],
    queryFn: () => answer(client.POST('/api/rough/work', { body: form })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** What a piece may become in an outline, at a glance. */
export const estimateQuery = (piece: PieceForm, outline: string, allowance: number) =>
  queryOptions({
    queryKey: [
      ...rough,
      'estimate',
      piece.rough.material,
      piece.rough.solid,
      piece.weighed,
      piece.unit,
      outline,
      allowance,
    ],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/rough/estimate', { body: { piece, outline, allowance }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** The finished stone of a version of a diagram, in design units. It never changes. */
export const solidQuery = (revision: string) =>
  queryOptions({
    queryKey: ['solid', revision],
    queryFn: () =>
      answer(client.GET('/api/solids/{hash}', { params: { path: { hash: revision } } })),
    staleTime: Infinity,
  });

/** A stone in a piece as it looks from above, with so many rays across. A null request asks nothing. */
export const faceQuery = (body: FaceAsked | null, grid: number) =>
  queryOptions({
    queryKey: ['face', body, grid],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/rough/face', { body: { ...body!, grid }, signal })),
    enabled: body !== null,
    staleTime: Infinity,
    gcTime: 20_000,
    retry: false,
  });

/** Where something lies in a piece that is seen from one side or two. */
export const locate = mutationOptions({
  mutationFn: (body: components['schemas']['SightingsRequest']) =>
    answer(client.POST('/api/rough/sightings', { body })),
});

const stale = refresh(rough, parcels);

export const addParcel = mutationOptions({
  mutationFn: (body: Parcel) =>
    making(['parcel', body], (head) => client.POST('/api/parcels', { body, ...head })),
  onSuccess: stale,
});

/** A parcel, written over the version that was read. */
export const parcelRecord = (id: string): Versioned<Parcel, Parcel, Parcel> => ({
  write: (body, version) =>
    answer(
      client.PUT('/api/parcels/{id}', { params: { path: { id } }, body: { ...body, version } }),
    ),
  read: async () => {
    const all = (await answer(client.GET('/api/parcels'))).parcels;
    return all.find((p) => p.id === id)!;
  },
  versionOf: (p) => p.version,
});

export const parcelsKey = parcels;

export const addPiece = mutationOptions({
  mutationFn: (body: PieceForm) =>
    making(['piece', body], (head) => client.POST('/api/rough', { body, ...head })),
  onSuccess: stale,
});

/** Keeps what a saw cut lets fall as a piece of its own. */
export const keepOffcut = mutationOptions({
  mutationFn: ({ id, trim }: { id: string; trim: number }) =>
    making(['offcut', id, trim], (head) =>
      client.POST('/api/rough/{id}/offcuts', { params: { path: { id } }, body: { trim }, ...head }),
    ),
  onSuccess: stale,
});

/** A piece, written over the version that was read. */
export const pieceRecord = (id: string): Versioned<PieceForm, Piece, Piece> => ({
  write: (body, version) =>
    answer(client.PUT('/api/rough/{id}', { params: { path: { id } }, body: { ...body, version } })),
  read: () => answer(client.GET('/api/rough/{id}', { params: { path: { id } } })),
  versionOf: (p) => p.version,
});

export const roughKey = rough;

export const readMesh = mutationOptions({
  mutationFn: (data: string) => answer(client.POST('/api/rough/mesh', { body: { data } })),
});

export const chooseCandidate = mutationOptions({
  mutationFn: ({ id, candidate, why }: { id: string; candidate: string; why: string }) =>
    answer(
      client.PUT('/api/rough/{id}/choice', { params: { path: { id } }, body: { candidate, why } }),
    ),
  onSuccess: stale,
});

export const dropCandidate = mutationOptions({
  mutationFn: ({ id, candidate }: { id: string; candidate: string }) =>
    answer(
      client.DELETE('/api/rough/{id}/candidates/{candidate}', {
        params: { path: { id, candidate } },
      }),
    ),
  onSuccess: stale,
});

/** Adds photos to a piece. */
export const addPiecePhotos = mutationOptions({
  mutationFn: ({ piece, files }: { piece: string; files: File[] }) =>
    sendPictures<PiecePhoto>(`/api/rough/${piece}/photos`, files),
  // Where one is refused, those before it are there.
  onSettled: (_data, _error, _asked, _kept, { client: queries }) => void reread(queries, rough),
});

/** Writes what is noted and marked on a photo of a piece, over the version that was read. */
export const markPiecePhoto = mutationOptions({
  mutationFn: ({ piece, photo }: { piece: string; photo: PiecePhoto }) => {
    const { note, marks, version } = photo;
    return answer(
      client.PUT('/api/rough/{id}/photos/{photo}', {
        params: { path: { id: piece, photo: photo.id } },
        body: { note, marks, version },
      }),
    );
  },
  // What was changed elsewhere meanwhile is read, too.
  onSettled: (_data, _error, _asked, _kept, { client: queries }) => void reread(queries, rough),
});

export const dropPiecePhoto = mutationOptions({
  mutationFn: ({ piece, photo }: { piece: string; photo: string }) =>
    answer(
      client.DELETE('/api/rough/{id}/photos/{photo}', { params: { path: { id: piece, photo } } }),
    ),
  onSuccess: stale,
});

/** The search for the largest stones in a piece. */
export const fittingOf = (id: string): LongWork<Fitting, FittingLine> => {
  const at = { params: { path: { id } } };
  return {
    start: (body) => answer(client.POST('/api/rough/{id}/fit', { ...at, body })),
    follow: (each, signal) => eachLine(fetch(`/api/rough/${id}/fit`, { signal }), each),
    stop: () => answer(client.DELETE('/api/rough/{id}/fit', at)),
  };
};

/** The search for changes of a candidate's diagram that suit its piece. */
export const variantsOf = (
  id: string,
): LongWork<components['schemas']['VariantsRequest'], VariantLine> => {
  const at = { params: { path: { id } } };
  return {
    start: (body) => answer(client.POST('/api/rough/{id}/variants', { ...at, body })),
    follow: (each, signal) => eachLine(fetch(`/api/rough/${id}/variants`, { signal }), each),
    stop: () => answer(client.DELETE('/api/rough/{id}/variants', at)),
  };
};

/** The search for saw cuts that make two stones of a piece. */
export const splitsOf = (
  id: string,
): LongWork<components['schemas']['SplitsRequest'], SplitLine> => {
  const at = { params: { path: { id } } };
  return {
    start: (body) => answer(client.POST('/api/rough/{id}/splits', { ...at, body })),
    follow: (each, signal) => eachLine(fetch(`/api/rough/${id}/splits`, { signal }), each),
    stop: () => answer(client.DELETE('/api/rough/{id}/splits', at)),
  };
};
