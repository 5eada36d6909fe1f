import Add from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRef, type KeyboardEvent } from 'react';
import type { Draft, DraftTier, Place, Tier } from '../../api/client';
import { w } from '../../words/words';
import { TierRow } from './TierRow';

interface Props {
  draft: Draft;
  /** The tiers of the stone that is shown, for their margins and stops in words. */
  tiers: Tier[];
  problems: Place[];
  selected: string | null;
  onSelect: (tier: string | null) => void;
  set: (next: (d: Draft) => Draft, at?: string) => void;
}

/** The tiers in cutting order, typed. Enter goes on to the next tier and makes it where there is none. */
export function TierEditor({ draft, tiers, problems, selected, onSelect, set }: Props) {
  const table = useRef<HTMLDivElement>(null);
  const setTiers = (next: (t: DraftTier[]) => DraftTier[], at?: string) =>
    set((d) => ({ ...d, tiers: next(d.tiers) }), at);
  const focusName = (row: number) =>
    // After the row has been drawn.
    requestAnimationFrame(() =>
      table.current?.querySelectorAll<HTMLInputElement>('input[data-name]')[row]?.focus(),
    );
  const add = () => {
    setTiers((list) => [...list, freshTier(list)]);
    focusName(draft.tiers.length);
  };
  const move = (from: number, to: number) => {
    setTiers((list) => {
      const next = [...list];
      next.splice(to, 0, ...next.splice(from, 1));
      return next;
    });
    onSelect(String(to));
    focusName(to);
  };
  const enter = (e: KeyboardEvent, row: number) => {
    if (e.key !== 'Enter' || !(e.target instanceof HTMLInputElement)) return;
    e.preventDefault();
    if (row + 1 < draft.tiers.length) focusName(row + 1);
    else add();
  };
  return (
    <Box ref={table}>
      {draft.tiers.map((t, i) => (
        <Box key={t.key} onKeyDown={(e) => enter(e, i)}>
          <TierRow
            tier={t}
            solved={tiers.find((s) => s.name === t.name)}
            problems={problems.filter((p) => p.tier === i)}
            names={draft.tiers.map((o) => o.name).filter((n) => n && n !== t.name)}
            selected={selected === String(i)}
            onSelect={() => onSelect(String(i))}
            onChange={(change, at) =>
              setTiers(
                (list) => list.map((o) => (o.key === t.key ? changed(o, change) : o)),
                at && `${t.key}/${at}`,
              )
            }
            onUp={i > 0 ? () => move(i, i - 1) : undefined}
            onDown={i + 1 < draft.tiers.length ? () => move(i, i + 1) : undefined}
            onRemove={() => setTiers((list) => list.filter((o) => o.key !== t.key))}
          />
        </Box>
      ))}
      <Button startIcon={<Add />} onClick={add} sx={{ mt: 2 }}>
        {w.diagrams.addTier}
      </Button>
    </Box>
  );
}

/** A tier with a change. The part follows the name's letter while nothing else has been typed. */
function changed(t: DraftTier, change: Partial<DraftTier>): DraftTier {
  const next = { ...t, ...change };
  const untouched = !next.angle && !next.indexes && !next.stop;
  const part = { P: 'pavilion', G: 'girdle', C: 'crown', T: 'crown' }[
    next.name.charAt(0).toUpperCase()
  ];
  return change.name !== undefined && untouched && part ? { ...next, part } : next;
}

/** A tier like the last one, with the next free name of its part. */
function freshTier(list: DraftTier[]): DraftTier {
  const part = list.at(-1)?.part ?? 'pavilion';
  const letter = part.charAt(0).toUpperCase();
  let n = 1;
  while (list.some((t) => t.name === `${letter}${n}`)) n++;
  let key = list.length + 1;
  while (list.some((t) => t.key === `t${key}`)) key++;
  return {
    key: `t${key}`,
    name: `${letter}${n}`,
    part,
    angle: '',
    indexes: '',
    stop: '',
    note: '',
    optional: false,
  };
}
