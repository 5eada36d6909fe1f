import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { leftInPass } from './work';

export interface Skipped {
  /** Place of a skipped facet that is being cut now. */
  one: number | undefined;
  /** Places of those that are listed; none where no list stands on the screen. */
  listed: readonly number[];
  /** The list was asked for: it is no end of a pass. */
  asked: boolean;
  /** Shows the list of all, where there are any, or leaves it. */
  show: (open: boolean) => void;
  cut: (place: number) => void;
  /** Leaves the facet that is being cut as it is. */
  putBack: () => void;
  /** Goes on without those of the pass that has ended. */
  goOn: () => void;
}

/** The facets that were skipped: which of them are on the screen. The address keeps that all are listed. */
export function useSkipped(script: BenchScript, state: BenchState): Skipped {
  const [search, setSearch] = useSearchParams();
  const [chosen, setChosen] = useState<number>();
  // Where those of a pass were left open; in a run each stone has its own.
  const [leftAt, setLeftAt] = useState('');
  const place = `${script.workId} ${state.at}`;
  const asked = search.has('skipped') && state.skipped.length > 0;
  const atEnd = leftAt === place ? [] : leftInPass(script, state);
  const show = (open: boolean) =>
    setSearch(open && state.skipped.length > 0 ? { skipped: '' } : {}, { replace: true });
  return {
    one: chosen !== undefined && state.skipped.includes(chosen) ? chosen : undefined,
    listed: asked ? state.skipped : atEnd,
    asked,
    show,
    cut: (i) => {
      show(false);
      setChosen(i);
    },
    putBack: () => setChosen(undefined),
    goOn: () => setLeftAt(place),
  };
}
