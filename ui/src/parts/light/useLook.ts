import { keepPreviousData, useQuery, type UseQueryOptions } from '@tanstack/react-query';
import type { Draft } from '../../api/client';
import { lookQuery } from '../../api/light';
import { useRested } from '../useRested';
import { polar, type Lighting, type Show, type Tilt } from './lighting';

/** Rays across the picture: at once, for an answer within a frame or two, and refined, for about one
 * a pixel. */
const quick = 160;
const fine = 448;
/** How long nothing changes before the picture is refined, in ms. */
const still = 180;

interface Asked {
  draft: Draft | undefined;
  lighting: Lighting;
  show: Show;
  split?: boolean;
  tilt: Tilt;
}

/** A picture that is asked for with more rays later. */
export interface Refined<Picture> {
  look: Picture | undefined;
  /** Whether the picture shows what was asked for, with all its rays. */
  done: boolean;
  error: Error | null;
}

/** A picture: at once with few rays, and with many as soon as what is asked for stays the same. */
export function useRefined<Picture, Key extends readonly unknown[]>(
  asked: unknown,
  query: (grid: number) => UseQueryOptions<Picture, Error, Picture, Key>,
): Refined<Picture> {
  const key = JSON.stringify(asked);
  const rested = useRested(key, still);
  const first = useQuery({ ...query(quick), placeholderData: keepPreviousData });
  const refined = useQuery({ ...query(fine), enabled: asked !== null && rested === key });
  return {
    look: refined.data ?? first.data,
    done: refined.data !== undefined,
    error: first.error ?? refined.error,
  };
}

export type LitStone = Refined<{ picture: string }>;

/** The stone under light. */
export function useLook({ draft, lighting, show, split = false, tilt }: Asked) {
  const body = draft ? { ...lighting, draft, show, split, ...polar(tilt) } : null;
  return useRefined(body, (grid) => lookQuery(body, grid));
}
