import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { answer, client, type Draft, type Reach, type StoneView } from '../../api/client';

/** A plane that is so close to a meet clicks into it, in design units. */
const near = 0.012;
/** What a key lowers a plane by between two meets. */
const fine = 0.005;

interface Live {
  distance: number;
  /** The place of the meet that it has clicked into, null between two. */
  at: number | null;
}

export interface Pulling {
  /** The tier's place in the draft. */
  tier: number;
  reaches: Reach[];
  /** The draft with the tier where it is held now. */
  draft: Draft;
  /** The meet that the tier stands at, null between two. */
  at: number | null;
  /** Why the tier cannot be pulled: an earlier one cannot be cut. */
  error: Error | null;
  grab: { start: () => void; move: (outwards: number) => void; end: () => void };
  choose: (reach: number) => void;
  /** Goes on to the next meet inwards, or back to the one before. */
  step: (inwards: 1 | -1) => void;
  /** Moves a little, stopping between meets. */
  nudge: (inwards: 1 | -1) => void;
}

/**
 * A tier being lowered into the stone: at each meet it clicks and the stop is written; let go
 * between two, it takes the stop that a cutter would measure there.
 */
export function usePull(
  draft: Draft,
  tier: number | null,
  stone: StoneView | undefined,
  write: (stop: string) => void,
): Pulling | null {
  const [live, setLive] = useState<Live | null>(null);
  // A drag goes on over many renders; what it began with is kept beside them.
  const drag = useRef<{ from: number; live: Live | null }>({ from: 0, live: null });
  const before = tier === null ? null : upTo(draft, tier);
  const pull = useQuery({
    queryKey: ['pull', before],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/pull', { body: { draft: before!, tier: tier! }, signal })),
    enabled: before !== null,
    retry: false,
    staleTime: Infinity,
    gcTime: 10_000,
  });
  if (tier === null) return null;
  const reaches = pull.data?.reaches ?? [];
  const stop = draft.tiers[tier]?.stop ?? '';
  const distance = live?.distance ?? distanceOf(stone, tier, pull.data?.normal) ?? pull.data?.from;
  const standing = reaches.findIndex((r) => distance !== undefined && same(r.distance, distance));
  const at = live ? live.at : standing < 0 ? null : standing;

  const hold = (to: number): Live => {
    if (!pull.data) return { distance: to, at: null };
    const bounded = Math.min(pull.data.from, Math.max(pull.data.to, to));
    const click = reaches.findIndex((r) => Math.abs(r.distance - bounded) < near);
    return click < 0
      ? { distance: bounded, at: null }
      : { distance: reaches[click]!.distance, at: click };
  };
  const settle = async (l: Live) => {
    if (l.at !== null) return write(reaches[l.at]!.stop);
    const body = { draft: before!, tier, distance: l.distance };
    write((await answer(client.POST('/api/pull/stop', { body }))).stop);
  };
  const choose = (reach: number) => {
    const r = reaches[reach];
    if (r) write(r.stop);
  };
  return {
    tier,
    reaches,
    at,
    error: pull.error,
    draft: live ? withStop(draft, tier, stopOf(live, reaches)) : draft,
    grab: {
      start: () => {
        drag.current = { from: distance ?? 0, live: null };
      },
      move: (outwards) => {
        drag.current.live = hold(drag.current.from + outwards);
        setLive(drag.current.live);
      },
      end: () => {
        const last = drag.current.live;
        if (last) void settle(last).finally(() => setLive(null));
      },
    },
    choose,
    step: (inwards) => {
      if (distance === undefined) return;
      const next =
        inwards > 0
          ? reaches.findIndex((r) => r.distance < distance && !same(r.distance, distance))
          : reaches.findLastIndex((r) => r.distance > distance && !same(r.distance, distance));
      if (next >= 0) choose(next);
    },
    nudge: (inwards) => {
      if (distance !== undefined) void settle({ distance: distance - inwards * fine, at: null });
    },
  };

  function stopOf(l: Live, list: Reach[]): string {
    return l.at === null ? `depth ${l.distance.toFixed(4)}` : (list[l.at]?.stop ?? stop);
  }
}

const same = (a: number, b: number) => Math.abs(a - b) < 1e-6;

/** The draft up to and with a tier, without what that tier's stop is at present. */
function upTo(draft: Draft, tier: number): Draft | null {
  if (tier >= draft.tiers.length) return null;
  const tiers = draft.tiers.slice(0, tier + 1);
  return withStop({ ...draft, tiers, note: '', name: 'draft' }, tier, '');
}

function withStop(draft: Draft, tier: number, stop: string): Draft {
  return { ...draft, tiers: draft.tiers.map((t, i) => (i === tier ? { ...t, stop } : t)) };
}

/** How far the plane of a tier's first facet stands from the origin on the stone that is shown. */
function distanceOf(
  stone: StoneView | undefined,
  tier: number,
  n: { x: number; y: number; z: number } | undefined,
): number | undefined {
  const f = stone?.facets.find((o) => o.tier === tier);
  return f && n && f.target.x * n.x + f.target.y * n.y + f.target.z * n.z;
}
