import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import Add from '@mui/icons-material/Add';
import DragIndicator from '@mui/icons-material/DragIndicator';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import {
  answer,
  ApiProblem,
  client,
  type Draft,
  type DraftTier,
  type Place,
  type Reshape,
  type Tier,
} from '../../api/client';
import { useNotice } from '../../app/notice';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';
import { TierMenu } from './TierMenu';
import { TierRow } from './TierRow';

interface Props {
  draft: Draft;
  /** The tiers of the stone that is shown, for their margins and stops in words. */
  tiers: Tier[];
  problems: Place[];
  selected: string | null;
  onSelect: (tier: string | null) => void;
  set: (next: (d: Draft) => Draft, at?: string) => void;
  onPull: (tier: number) => void;
  /** The tier that is being pulled, and what stands under its row meanwhile. */
  pulled: number | null;
  panel: ReactNode;
  /** Keys of tiers that are left off to look. */
  off: string[];
  onOff: (key: string) => void;
}

/** The tiers in cutting order, typed. Enter goes on to the next tier and makes it where there is none. */
export function TierEditor(props: Props) {
  const { draft, tiers, problems, selected, onSelect, set, onPull, pulled, panel, off, onOff } =
    props;
  const say = useNotice();
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
    // A dialog of the row stands elsewhere on the page, but its keys come by here too.
    const here = e.currentTarget.contains(e.target as Node);
    if (e.key !== 'Enter' || !here || !(e.target instanceof HTMLInputElement)) return;
    e.preventDefault();
    if (row + 1 < draft.tiers.length) focusName(row + 1);
    else add();
  };
  const reshape = async (tier: number, how: Reshape) => {
    try {
      const { draft: after } = await answer(
        client.POST('/api/reshape', { body: { draft, tier, how } }),
      );
      set(() => after);
    } catch (e) {
      say({ text: e instanceof ApiProblem ? e.message : w.common.unreachable });
    }
  };
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const dropped = ({ active, over }: DragEndEvent) => {
    const place = (key: unknown) => draft.tiers.findIndex((t) => t.key === key);
    if (over && over.id !== active.id) move(place(active.id), place(over.id));
  };
  return (
    <Box ref={table}>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext
          items={draft.tiers.map((t) => t.key)}
          strategy={verticalListSortingStrategy}
        >
          {draft.tiers.map((t, i) => (
            <Draggable key={t.key} id={t.key} name={t.name} onKeyDown={(e) => enter(e, i)}>
              {(handle) => (
                <>
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
                    onPull={() => onPull(i)}
                    off={off.includes(t.key)}
                    onOff={t.optional ? () => onOff(t.key) : undefined}
                    handle={handle}
                    menu={
                      <TierMenu draft={draft} tier={i} onReshape={(how) => void reshape(i, how)} />
                    }
                  />
                  {pulled === i && panel}
                </>
              )}
            </Draggable>
          ))}
        </SortableContext>
      </DndContext>
      <Button startIcon={<Add />} onClick={add} sx={{ mt: 2 }}>
        {w.diagrams.addTier}
      </Button>
    </Box>
  );
}

/** A row that is dragged by its handle, or moved with the arrow keys once that is picked up. */
function Draggable({
  id,
  name,
  onKeyDown,
  children,
}: {
  id: string;
  name: string;
  onKeyDown: (e: KeyboardEvent) => void;
  children: (handle: ReactNode) => ReactNode;
}) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id });
  return (
    <Box
      ref={setNodeRef}
      onKeyDown={onKeyDown}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined }}
      sx={isDragging ? { position: 'relative', zIndex: 1, bgcolor: 'background.paper' } : undefined}
    >
      {children(
        <IconButton
          {...attributes}
          {...listeners}
          aria-label={editingWords.tier.drag(name)}
          sx={{ width: 30, cursor: 'grab', touchAction: 'none', flexShrink: 0 }}
        >
          <DragIndicator />
        </IconButton>,
      )}
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
