import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { Draft, Held, Reach, StoneView } from '../../../api/client';
import { pullQuery, stopAt } from '../../../api/solving';

/** A plane that is so close to a meet clicks into it, in design units: about three pixels of the
 * picture, less than a hand holds still. */
const near = 0.012;
/** What a key lowers a plane by between two meets: less than `near`, so that none is missed. */
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
  /** The draft with the tier at the meet that it has clicked into, while it is held. */
  draft: Draft;
  /** Where the tier's plane is held between two meets, null elsewhere. */
  held: Held | null;
  /** The meet that the tier stands at, null between two. */
  at: number | null;
  /** Why the tier cannot be pulled, such as that an earlier one cannot be cut. */
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
  key: string | null,
  stone: StoneView | undefined,
  write: (stop: string) => void,
): Pulling | null {
  const [live, setLive] = useState<Live | null>(null);
  // A drag goes on over many renders; what it began with is kept beside them.
  const drag = useRef<{ from: number; live: Live | null }>({ from: 0, live: null });
  const [failed, setFailed] = useState<Error | null>(null);
  const tier = draft.tiers.findIndex((t) => t.key === key);
  const before = tier < 0 ? null : upTo(draft, tier);
  const pull = useQuery(pullQuery(before, tier));
  if (before === null) return null;
  const reaches = pull.data?.reaches ?? [];
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
    try {
      write(await stopAt(before, tier, l.distance));
      setFailed(null);
    } catch (e) {
      // The tier stays where it was; why is told in the panel.
      setFailed(e as Error);
    }
  };
  const choose = (reach: number) => {
    const r = reaches[reach];
    if (r) write(r.stop);
  };
  return {
    tier,
    reaches,
    at,
    error: pull.error ?? failed,
    draft: live && live.at !== null ? withStop(draft, tier, reaches[live.at]!.stop) : draft,
    held: live && live.at === null ? { tier, distance: live.distance } : null,
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
}

const same = (a: number, b: number) => Math.abs(a - b) < 1e-6;

/** The draft up to and with a tier, without what that tier's stop is at present. */
function upTo(draft: Draft, tier: number): Draft {
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
