import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Point } from '../../api/client';
import { locate, type Rough, type Sighted, type Sighting } from '../../api/rough';

/** A flaw that is placed by looking at it from two sides. */
export function useSightings(
  rough: Rough,
  sawn: boolean,
  onFound: (at: Point, gap: number) => void,
) {
  /** What was sighted so far, undefined where nothing is being sighted. */
  const [made, setMade] = useState<Sighting[]>();
  const [lines, setLines] = useState<Sighted['lines']>([]);
  const [immersed, setImmersed] = useState(false);
  const work = useMutation(locate);
  const end = () => {
    setMade(undefined);
    setLines([]);
    work.reset();
  };
  const sight = (one: Sighting) => {
    const all = [...(made ?? []), one];
    work.mutate(
      { rough, sawn, immersed, sightings: all },
      {
        onSuccess: (got) => {
          setMade(all);
          setLines(got.lines);
          if (!got.at) return;
          onFound(got.at, got.gap);
          end();
        },
      },
    );
  };
  return {
    /** Which look comes next, from 0; undefined where nothing is being sighted. */
    step: made?.length,
    lines,
    immersed,
    setImmersed,
    error: work.error,
    begin: () => setMade([]),
    end,
    sight,
  };
}
