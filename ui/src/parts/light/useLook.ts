import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Draft } from '../../api/client';
import { lookQuery } from '../../api/light';
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

export type LitStone = ReturnType<typeof useLook>;

/** The stone under light: at once with few rays, and with many as soon as nothing changes. */
export function useLook({ draft, lighting, show, split = false, tilt }: Asked) {
  const body = draft ? { ...lighting, draft, show, split, ...polar(tilt) } : null;
  const key = JSON.stringify(body);
  const [rested, setRested] = useState('');
  useEffect(() => {
    const wait = setTimeout(() => setRested(key), still);
    return () => clearTimeout(wait);
  }, [key]);
  const first = useQuery({ ...lookQuery(body, quick), placeholderData: keepPreviousData });
  const refined = useQuery({
    ...lookQuery(body, fine),
    enabled: body !== null && rested === key,
  });
  return {
    look: refined.data ?? first.data,
    /** Whether the picture shows what was asked for, with all its rays. */
    done: refined.data !== undefined,
    error: first.error ?? refined.error,
  };
}
