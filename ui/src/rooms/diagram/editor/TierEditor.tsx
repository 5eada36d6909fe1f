import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
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
import Typography from '@mui/material/Typography';
import {
  Fragment,
  useMemo,
  useRef,
  type ComponentProps,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import {
  ApiProblem,
  type Draft,
  type DraftTier,
  type Place,
  type Reading,
  type Reshape,
  type StoneView,
} from '../../../api/client';
import { reshape as askReshape } from '../../../api/solving';
import { useNotice } from '../../../parts/notice';
import { editingWords } from '../../../words/editing';
import { orderWords, stopsWords } from '../../../words/order';
import { w } from '../../../words/words';
import { useTierActs } from './tierActs';
import { plainReshape } from './TierDialog';
import { columns, TierRow } from './TierRow';
import { LyingHint, TurnWhole } from './TurnWhole';

interface Props {
  draft: Draft;
  /** The stone that is shown, for margins and stops in words. */
  stone: StoneView | undefined;
  problems: Place[];
  /** What the words of the sheet were read as. */
  readings: Reading[];
  selected: string | null;
  onSelect: (tier: string | null) => void;
  set: (next: (d: Draft) => Draft, at?: string) => void;
  onPull: (tier: string) => void;
  /** The key of the tier that is being pulled, and what stands under its row meanwhile. */
  pulled: string | null;
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
  const { draft, stone, problems, readings, selected, onSelect, set, onPull, pulled, panel } =
    props;
  const { off, onOff } = props;
  const lacking = problems.filter((p) => p.code === 'stop-missing').length;
  // A sheet that is still being typed is not ready for its stops to be looked for.
  const unfinished = draft.tiers.some((t) => t.angle.trim() === '' || t.indexes.trim() === '');
  const say = useNotice();
  const table = useRef<HTMLDivElement>(null);
  const setTiers = (next: (t: DraftTier[]) => DraftTier[], at?: string) =>
    set((d) => ({ ...d, tiers: next(d.tiers) }), at);
  const focusName = (row: number) =>
    // After the row has been drawn.
    requestAnimationFrame(() =>
      table.current?.querySelectorAll<HTMLInputElement>('input[data-name]')[row]?.focus(),
    );
  const add = async () => {
    const row = draft.tiers.length;
    // Only the new tier is taken over: the others may have been typed in meanwhile.
    const how: Reshape = { ...plainReshape, kind: 'append' };
    const grown = await reshaped(draft, Math.max(0, row - 1), how);
    if (!grown) return;
    setTiers((list) => [...list, grown.tiers.at(-1)!]);
    focusName(row);
  };
  const move = (from: number, to: number) => {
    setTiers((list) => {
      const next = [...list];
      next.splice(to, 0, ...next.splice(from, 1));
      return next;
    });
    focusName(to);
  };
  const enter = (e: KeyboardEvent, row: number) => {
    // A dialog of the row stands elsewhere on the page, but its keys come by here too.
    const here = e.currentTarget.contains(e.target as Node);
    if (e.key !== 'Enter' || !here || !(e.target instanceof HTMLInputElement)) return;
    e.preventDefault();
    if (row + 1 < draft.tiers.length) focusName(row + 1);
    else void add();
  };
  /** A draft with a tier reshaped; undefined where that cannot be, which is then said. */
  const reshaped = async (of: Draft, tier: number, how: Reshape): Promise<Draft | undefined> => {
    try {
      return await askReshape(of, tier, how);
    } catch (e) {
      say({ text: e instanceof ApiProblem ? e.message : w.common.unreachable });
      return undefined;
    }
  };
  /** Reshapes a tier, or the diagram as a whole where none is named. */
  const reshape = async (key: string | null, how: Reshape) => {
    const placeIn = (d: Draft) => (key === null ? 0 : d.tiers.findIndex((t) => t.key === key));
    let before: Draft | undefined;
    let after: Draft | undefined;
    // What was typed while the server answered stays: it is then asked of that draft.
    while (before !== acts.draft()) {
      before = acts.draft();
      after = placeIn(before) < 0 ? undefined : await reshaped(before, placeIn(before), how);
      if (!after) return;
    }
    set(() => after!);
  };
  const sensors = useSensors(
    useSensor(PointerSensor, byPointer),
    useSensor(KeyboardSensor, byKeys),
  );
  const announcements = announcementsOf(draft.tiers);
  const dropped = ({ active, over }: DragEndEvent) => {
    const place = (key: unknown) => draft.tiers.findIndex((t) => t.key === key);
    if (over && over.id !== active.id) move(place(active.id), place(over.id));
  };
  const acts = useTierActs({
    draft: () => draft,
    select: onSelect,
    change: (key, change, at) =>
      setTiers(
        (list) => list.map((o) => (o.key === key ? { ...o, ...change } : o)),
        at && `${key}/${at}`,
      ),
    move,
    remove: (key) => setTiers((list) => list.filter((o) => o.key !== key)),
    pull: onPull,
    off: onOff,
    reshape: (key, how) => void reshape(key, how),
    mend: props.onMend,
    enter,
  });
  // The same list while only what is in the tiers changes: a new one draws every row anew.
  const joined = draft.tiers.map((t) => t.key).join('\n');
  const keys = useMemo(() => joined.split('\n'), [joined]);
  const solved = new Map(stone?.tiers.map((t) => [t.key, t]));
  const turnWhole = (by: number) => void reshape(null, { ...plainReshape, kind: 'turn-whole', by });
  return (
    <Box ref={table}>
      {draft.tiers.length > 0 && <Heads />}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={dropped}
        accessibility={{ announcements, screenReaderInstructions: drag.instructions }}
      >
        <SortableContext items={keys} strategy={verticalListSortingStrategy}>
          {draft.tiers.map((t, i) => (
            <Fragment key={t.key}>
              <Row
                tier={t}
                place={i}
                last={i + 1 === draft.tiers.length}
                solved={solved.get(t.key)}
                problems={problems.filter((p) => p.tier === i)}
                readings={readings.filter((r) => r.tier === i)}
                names={draft.tiers.map((o) => o.name).filter((n) => n && n !== t.name)}
                selected={selected === t.key}
                off={off.includes(t.key)}
                acts={acts}
              />
              {pulled === t.key && panel}
            </Fragment>
          ))}
        </SortableContext>
      </DndContext>
      {lacking > 0 && (
        <Typography color="text.secondary" sx={{ mt: 1 }}>
          {editingWords.missing(lacking)}
        </Typography>
      )}
      {stone?.complete && <LyingHint stone={stone} gear={Number(draft.gear)} onTurn={turnWhole} />}
      <Box sx={{ display: 'flex', gap: 2, mt: 1, flexWrap: 'wrap' }}>
        <Button startIcon={<Add />} onClick={() => void add()}>
          {w.diagrams.addTier}
        </Button>
        {draft.tiers.length > 1 && (
          <>
            <Button onClick={props.onMend} disabled={lacking > 0}>
              {orderWords.open}
            </Button>
            <Button
              onClick={props.onStops}
              variant={lacking > 0 && !unfinished ? 'contained' : 'outlined'}
            >
              {lacking > 0 ? stopsWords.open : stopsWords.anew}
            </Button>
            <TurnWhole gear={Number(draft.gear)} onTurn={turnWhole} />
          </>
        )}
      </Box>
    </Box>
  );
}

/** The heads of the columns. */
function Heads() {
  const heads = [
    '',
    w.tiers.tier,
    '',
    `${w.tiers.angle} °`,
    w.tiers.margin,
    w.tiers.indexes,
    w.tiers.stop,
  ];
  return (
    <Box
      aria-hidden
      sx={{
        display: 'grid',
        gridTemplateColumns: columns,
        gap: 1,
        pl: '8px',
        fontSize: '0.8125rem',
        color: 'text.secondary',
      }}
    >
      {heads.map((head, i) => (
        <span key={i}>{head}</span>
      ))}
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
        sx={{ width: 22, height: 34, cursor: 'grab', touchAction: 'none', flexShrink: 0 }}
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

const drag = editingWords.dragging;

/** What those who do not see the screen hear of a tier that is dragged. */
function announcementsOf(tiers: DraftTier[]): Announcements {
  const name = (key: UniqueIdentifier) => tiers.find((t) => t.key === key)?.name ?? '';
  const place = (key: UniqueIdentifier) => tiers.findIndex((t) => t.key === key) + 1;
  return {
    onDragStart: ({ active }) => drag.start(name(active.id), place(active.id), tiers.length),
    onDragOver: ({ active, over }) =>
      over ? drag.over(name(active.id), place(over.id), tiers.length) : drag.away(name(active.id)),
    onDragEnd: ({ active, over }) =>
      over ? drag.end(name(active.id), place(over.id)) : drag.cancel(name(active.id)),
    onDragCancel: ({ active }) => drag.cancel(name(active.id)),
  };
}
