import RedoOutlined from '@mui/icons-material/RedoOutlined';
import UndoOutlined from '@mui/icons-material/UndoOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useCallback, useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { Diagram, Draft } from '../../api/client';
import { useKeys } from '../../app/keys';
import { useNotice } from '../../app/notice';
import { Conflict } from '../../parts/Conflict';
import { useUsualLooking } from '../../parts/light/useUsualLooking';
import { PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { vec } from '../../parts/stone/geometry';
import type { RingMark } from '../../parts/stone/grab';
import { editingWords } from '../../words/editing';
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { OrderDialog } from '../judging/OrderDialog';
import { StopsDialog } from '../judging/StopsDialog';
import { PullPanel } from './PullPanel';
import { SheetHead } from './SheetHead';
import { StoneDesk } from './StoneDesk';
import { TierEditor } from './TierEditor';
import { useDraft, type SaveState } from './useDraft';
import { keptStack, type Stack } from './undoStore';
import { usePull, type Pulling } from './usePull';
import { useLeftOff, useSolved } from './useSolved';

/** A diagram being typed or changed: the stone follows the tier table. */
export function DiagramEditor({ diagram }: { diagram: Diagram }) {
  // Undo survives a reload: its stack comes back before anything can be typed.
  const [kept, setKept] = useState<{ stack: Stack | undefined }>();
  useEffect(() => {
    let here = true;
    void keptStack(diagram.id, diagram.draft).then((stack) => here && setKept({ stack }));
    return () => {
      here = false;
    };
    // Only what was there when the editor opened counts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [diagram.id]);
  return kept && <Editor diagram={diagram} stack={kept.stack} />;
}

function Editor({ diagram, stack }: { diagram: Diagram; stack: Stack | undefined }) {
  const editing = useDraft(diagram, stack);
  const { draft, set } = editing;
  const [off, toggleOff] = useLeftOff();
  const [pulled, setPulled] = useState<number | null>(null);
  const [selected, setSelected] = useState<string | null>(null);
  const [judging, setJudging] = useState<'order' | 'stops' | null>(null);
  const say = useNotice();
  const write = (stop: string) =>
    set((d) => ({ ...d, tiers: d.tiers.map((t, i) => (i === pulled ? { ...t, stop } : t)) }));
  const plain = useSolved(draft, { off });
  const pulling = usePull(draft, pulled, plain.solved?.stone ?? undefined, write);
  // While a tier is held, the stone follows the hand.
  const live = useSolved(pulling?.draft ?? draft, { off });
  const { solved, behind } = live;
  const shown = pulling ? (solved?.stone ?? live.shown) : live.shown;
  const held = pulled !== null;
  const usual = useUsualLooking(diagram);
  const pick = useCallback((t: string | null) => !held && setSelected(t), [held]);
  const pull = (tier: number) => {
    setSelected(String(tier));
    setPulled(tier);
  };
  const take = (next: Draft, text: string) => {
    set(() => next);
    setJudging(null);
    say({ text, action: { label: w.common.undo, run: editing.undo } });
  };
  const problems = solved?.problems ?? [];
  const keep = () =>
    editing.keep.mutate(undefined, { onSuccess: () => say({ text: w.diagrams.kept }) });
  useKeys([
    { keys: ['Ctrl+z'], label: w.common.undo, run: editing.undo, repeats: true },
    { keys: ['Ctrl+Shift+z', 'Ctrl+y'], label: w.common.redo, run: editing.redo, repeats: true },
    { keys: ['Ctrl+s'], label: w.diagrams.keep, run: keep },
  ]);
  const kept = editing.state === 'saved' && !editing.saved.edited;
  return (
    <>
      <PageHead
        title={draft.name || w.diagrams.noName}
        facts={[saveWords[editing.state], kept ? w.diagrams.kept : w.diagrams.notKept]}
      >
        <IconButton onClick={editing.undo} disabled={!editing.canUndo} aria-label={w.common.undo}>
          <UndoOutlined />
        </IconButton>
        <IconButton onClick={editing.redo} disabled={!editing.canRedo} aria-label={w.common.redo}>
          <RedoOutlined />
        </IconButton>
        <Button component={Link} to={`/diagrams/${diagram.id}`}>
          {w.diagrams.view}
        </Button>
        {editing.saved.revision && (
          <Button
            component={Link}
            to={`/stones/new?diagram=${diagram.id}`}
            variant={kept ? 'contained' : 'outlined'}
          >
            {w.diagrams.plan}
          </Button>
        )}
        <Button
          variant={kept ? 'outlined' : 'contained'}
          onClick={keep}
          disabled={editing.keep.isPending}
        >
          {w.diagrams.keep}
        </Button>
      </PageHead>
      <Box sx={{ px: 6 }}>
        <Refusal error={editing.error ?? editing.keep.error} />
      </Box>
      <StoneDesk
        stone={shown}
        problems={draft.tiers.length > 0 ? problems.filter((p) => p.field === '') : []}
        warnings={solved?.warnings ?? []}
        selected={selected}
        onSelect={pick}
        light={{ draft: usual.ready ? live.whole : undefined, looking: usual.looking }}
        hold={
          pulling ? { tier: pulling.tier, rings: ringsOf(pulling), grab: pulling.grab } : undefined
        }
      >
        <SheetHead draft={draft} problems={problems} set={editing.set} />
        {draft.tiers.length === 0 && <Typography sx={{ my: 3 }}>{w.diagrams.empty}</Typography>}
        {problems.length > 0 && shown && (
          <Typography color="text.secondary" sx={{ my: 1 }}>
            {behind ? w.diagrams.lastGood : w.diagrams.partial}
          </Typography>
        )}
        <TierEditor
          draft={draft}
          tiers={shown?.tiers ?? []}
          problems={problems}
          selected={selected}
          onSelect={(t) => {
            setSelected(t);
            // Another tier's row ends the pulling of this one.
            if (pulled !== null && t !== String(pulled)) setPulled(null);
          }}
          set={editing.set}
          onPull={pull}
          panel={
            pulling && (
              <PullPanel
                pulling={pulling}
                name={draft.tiers[pulling.tier]?.name ?? ''}
                onClose={() => setPulled(null)}
              />
            )
          }
          pulled={pulled}
          off={off}
          onOff={toggleOff}
          onMend={() => setJudging('order')}
          onStops={() => setJudging('stops')}
        />
      </StoneDesk>
      {judging === 'order' && (
        <OrderDialog
          draft={draft}
          onClose={() => setJudging(null)}
          onTake={(next) => take(next, judgingWords.order.taken)}
          take={judgingWords.order.take}
        />
      )}
      {judging === 'stops' && (
        <StopsDialog
          draft={draft}
          onClose={() => setJudging(null)}
          onTake={(next) => take(next, judgingWords.stops.taken)}
        />
      )}
      {editing.theirs && (
        <Conflict
          mine={tell(draft)}
          theirs={tell(editing.theirs.draft)}
          onMine={editing.keepMine}
          onTheirs={editing.takeTheirs}
        />
      )}
    </>
  );
}

/** The places where a tier clicks, numbered in the order in which it reaches them. */
function ringsOf(pulling: Pulling): RingMark[] {
  return pulling.reaches.map((r, i) => ({
    at: vec(r.points[0]!),
    n: i + 1,
    label: editingWords.pull.ring(i + 1, r.words),
    chosen: pulling.at === i,
    run: () => pulling.choose(i),
  }));
}

const saveWords: Record<SaveState, string> = {
  saved: w.diagrams.saved,
  unsaved: w.diagrams.unsaved,
  saving: w.diagrams.saving,
};

/** A draft in lines, for holding two against each other. */
function tell(d: Draft): string[] {
  return [
    d.name,
    `${w.diagrams.gear} ${d.gear} · n ${d.refractiveIndex} · ${d.outline}`,
    ...d.tiers.map((t) => `${t.name} ${t.angle}° ${t.indexes} · ${t.stop}`),
  ];
}
