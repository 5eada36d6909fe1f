import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answer, client, type Draft, type Look } from '../../api/client';
import { polar, type Looking, type Show, type Tilt } from './looking';

/** Rays across the picture, at once and refined. */
const quick = 160;
const fine = 448;
/** How long nothing changes before the picture is refined, in ms. */
const still = 180;

interface Asked {
  draft: Draft | undefined;
  looking: Looking;
  show: Show;
  split?: boolean;
  tilt: Tilt;
}

export type Seen = ReturnType<typeof useLook>;

/** The stone under light: at once with few rays, and with many as soon as nothing changes. */
export function useLook({ draft, looking, show, split = false, tilt }: Asked) {
  const body = draft && { ...looking, draft, show, split, ...polar(tilt) };
  const key = JSON.stringify(body);
  const [rested, setRested] = useState('');
  useEffect(() => {
    const wait = setTimeout(() => setRested(key), still);
    return () => clearTimeout(wait);
  }, [key]);
  const at = (grid: number) => ({
    queryKey: ['look', key, grid],
    queryFn: ({ signal }: { signal: AbortSignal }): Promise<Look> =>
      answer(client.POST('/api/light/look', { body: { ...body!, grid }, signal })),
    staleTime: Infinity,
    gcTime: 20_000,
    retry: false,
  });
  const first = useQuery({
    ...at(quick),
    enabled: draft !== undefined,
    placeholderData: keepPreviousData,
  });
  const refined = useQuery({ ...at(fine), enabled: draft !== undefined && rested === key });
  return {
    look: refined.data ?? first.data,
    /** Whether the picture shows what was asked for, with all its rays. */
    done: refined.data !== undefined,
    error: first.error ?? refined.error,
  };
}
