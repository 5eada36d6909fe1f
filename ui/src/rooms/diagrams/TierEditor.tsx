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
import {
  Fragment,
  useMemo,
  useRef,
  type ComponentProps,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
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
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { useTierActs } from './tierActs';
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
  /** Shows a better cutting order, and finds stops. */
  onMend: () => void;
  onStops: () => void;
}

// Objects that stay the same: new ones would draw every row anew.
const byPointer = { activationConstraint: { distance: 4 } };
const byKeys = { coordinateGetter: sortableKeyboardCoordinates };

/** The tiers in cutting order, typed. Enter goes on to the next tier and makes it where there is none. */
export function TierEditor(props: Props) {
  const { draft, tiers, problems, selected, onSelect, set, onPull, pulled, panel, off, onOff } =
    props;
  const lacking = draft.tiers.some((t) => t.stop.trim() === '');
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
    useSensor(PointerSensor, byPointer),
    useSensor(KeyboardSensor, byKeys),
  );
  const dropped = ({ active, over }: DragEndEvent) => {
    const place = (key: unknown) => draft.tiers.findIndex((t) => t.key === key);
    if (over && over.id !== active.id) move(place(active.id), place(over.id));
  };
  const acts = useTierActs({
    draft: () => draft,
    select: (i) => onSelect(String(i)),
    change: (key, change, at) =>
      setTiers(
        (list) => list.map((o) => (o.key === key ? changed(o, change) : o)),
        at && `${key}/${at}`,
      ),
    move,
    remove: (key) => setTiers((list) => list.filter((o) => o.key !== key)),
    pull: onPull,
    off: onOff,
    reshape: (tier, how) => void reshape(tier, how),
    mend: props.onMend,
    enter,
  });
  // The same list while only what is in the tiers changes: a new one draws every row anew.
  const joined = draft.tiers.map((t) => t.key).join('\n');
  const keys = useMemo(() => joined.split('\n'), [joined]);
  const named = new Map(tiers.map((t) => [t.name, t]));
  return (
    <Box ref={table}>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext items={keys} strategy={verticalListSortingStrategy}>
          {draft.tiers.map((t, i) => (
            <Fragment key={t.key}>
              <Row
                tier={t}
                place={i}
                last={i + 1 === draft.tiers.length}
                solved={named.get(t.name)}
                problems={problems.filter((p) => p.tier === i)}
                names={draft.tiers.map((o) => o.name).filter((n) => n && n !== t.name)}
                selected={selected === String(i)}
                off={off.includes(t.key)}
                acts={acts}
              />
              {pulled === i && panel}
            </Fragment>
          ))}
        </SortableContext>
      </DndContext>
      <Box sx={{ display: 'flex', gap: 2, mt: 2, flexWrap: 'wrap' }}>
        <Button startIcon={<Add />} onClick={add}>
          {w.diagrams.addTier}
        </Button>
        {draft.tiers.length > 1 && (
          <>
            <Button onClick={props.onMend} disabled={lacking}>
              {judgingWords.order.open}
            </Button>
            <Button onClick={props.onStops}>
              {lacking ? judgingWords.stops.open : judgingWords.stops.anew}
            </Button>
          </>
        )}
      </Box>
    </Box>
  );
}

/** A row that is dragged by its handle, or moved with the arrow keys once that is picked up. */
function Row(props: Omit<ComponentProps<typeof TierRow>, 'handle'>) {
  const { tier: t, place, acts } = props;
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id: t.key });
  const handle = useMemo(
    () => (
      <IconButton
        {...attributes}
        {...listeners}
        aria-label={editingWords.tier.drag(t.name)}
        sx={{ width: 30, cursor: 'grab', touchAction: 'none', flexShrink: 0 }}
      >
        <DragIndicator />
      </IconButton>
    ),
    [attributes, listeners, t.name],
  );
  return (
    <Box
      ref={setNodeRef}
      onKeyDown={(e) => acts.enter(e, place)}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined }}
      sx={isDragging ? { position: 'relative', zIndex: 1, bgcolor: 'background.paper' } : undefined}
    >
      <TierRow {...props} handle={handle} />
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
