import RedoOutlined from '@mui/icons-material/RedoOutlined';
import UndoOutlined from '@mui/icons-material/UndoOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import type { Diagram, Draft } from '../../../api/client';
import type { History } from '../../../drafts/history';
import type { SaveState } from '../../../drafts/session';
import { draftLines } from '../../../parts/diagram/draftLines';
import { useDraftSession, useKeptHistory } from '../../../parts/diagram/useDraftSession';
import { StopsDialog } from '../../../parts/diagram/StopsDialog';
import { Conflict } from '../../../parts/forms/Conflict';
import { Refusal } from '../../../parts/forms/Refusal';
import { useKeys } from '../../../parts/keys';
import { useUsualLighting } from '../../../parts/light/useUsualLighting';
import { useNotice } from '../../../parts/notice';
import { PageHead } from '../../../parts/Page';
import { vec } from '../../../parts/stone/geometry';
import type { RingMark } from '../../../parts/stone/grab';
import { StoneDesk } from '../../../parts/stone/StoneDesk';
import { useSelectedTier } from '../../../parts/stone/useSelectedTier';
import { useLeftOff, useSolved } from '../../../parts/stone/useSolved';
import { freehandWords } from '../../../words/freehand';
import { editingWords } from '../../../words/editing';
import { orderWords, stopsWords } from '../../../words/order';
import { w } from '../../../words/words';
import { OrderDialog } from '../OrderDialog';
import { PullPanel } from './PullPanel';
import { SheetHead } from './SheetHead';
import { TierEditor } from './TierEditor';
import { usePull, type Pulling } from './usePull';

/** A diagram being typed or changed: the stone follows the tier table. */
export function DiagramEditor({ diagram }: { diagram: Diagram }) {
  const kept = useKeptHistory(diagram);
  return kept && <Editor diagram={diagram} history={kept.history} />;
}

interface Props {
  diagram: Diagram;
  history: History<Draft> | undefined;
}

function Editor({ diagram, history }: Props) {
  const editing = useDraftSession(diagram, history);
  const { draft, saved, session } = editing;
  const { set } = session;
  const [off, toggleOff] = useLeftOff();
  const [selected, select] = useSelectedTier();
  const [pulled, setPulled] = useState<string | null>(null);
  const [dialog, setDialog] = useState<'order' | 'stops' | null>(null);
  const say = useNotice();
  const write = (stop: string) =>
    set((d) => ({ ...d, tiers: d.tiers.map((t) => (t.key === pulled ? { ...t, stop } : t)) }));
  const plain = useSolved(draft, { off });
  const pulling = usePull(draft, pulled, plain.solved?.stone ?? undefined, write);
  // While a tier is held, the stone follows the hand.
  const live = useSolved(pulling?.draft ?? draft, { off, held: pulling?.held });
  const { solved, behind } = live;
  const shown = pulling ? (solved?.stone ?? live.shown) : live.shown;
  const held = pulled !== null;
  const { data: lighting } = useUsualLighting(diagram);
  const pick = useCallback((t: string | null) => !held && select(t), [held, select]);
  const pull = (tier: string) => {
    select(tier);
    setPulled(tier);
  };
  const take = (next: Draft, text: string) => {
    set(() => next);
    setDialog(null);
    say({ text, action: { label: w.common.undo, run: session.undo } });
  };
  const problems = solved?.problems ?? [];
  const keep = () => void session.keep().then((done) => done && say({ text: w.diagrams.kept }));
  useKeys([
    { keys: ['Ctrl+z'], label: w.common.undo, run: session.undo, repeats: true },
    { keys: ['Ctrl+Shift+z', 'Ctrl+y'], label: w.common.redo, run: session.redo, repeats: true },
    { keys: ['Ctrl+s'], label: w.diagrams.keep, run: keep },
  ]);
  const kept = editing.state === 'saved' && !saved.edited;
  return (
    <>
      <PageHead
        title={draft.name || w.diagrams.noName}
        facts={[saveWords[editing.state], kept ? w.diagrams.kept : w.diagrams.notKept]}
      >
        <IconButton onClick={session.undo} disabled={!editing.canUndo} aria-label={w.common.undo}>
          <UndoOutlined />
        </IconButton>
        <IconButton onClick={session.redo} disabled={!editing.canRedo} aria-label={w.common.redo}>
          <RedoOutlined />
        </IconButton>
        {saved.freehand && (
          <Button component={Link} to={`/freehand/${diagram.id}`}>
            {freehandWords.goOn}
          </Button>
        )}
        <Button component={Link} to={`/diagrams/${diagram.id}`}>
          {w.diagrams.view}
        </Button>
        {saved.revision && (
          <Button
            component={Link}
            to={`/stones/new?diagram=${diagram.id}`}
            variant={kept ? 'contained' : 'outlined'}
          >
            {w.diagrams.plan}
          </Button>
        )}
        <Button variant={kept ? 'outlined' : 'contained'} onClick={keep} disabled={editing.keeping}>
          {w.diagrams.keep}
        </Button>
      </PageHead>
      <Box sx={{ px: 6 }}>
        <Refusal error={editing.error} />
      </Box>
      <StoneDesk
        roomy
        stone={shown}
        problems={draft.tiers.length > 0 ? problems.filter((p) => p.field === '') : []}
        warnings={solved?.warnings ?? []}
        selected={selected}
        onSelect={pick}
        light={lighting && { draft: live.whole, lighting }}
        hold={
          pulling ? { tier: pulling.tier, rings: ringsOf(pulling), grab: pulling.grab } : undefined
        }
      >
        <SheetHead draft={draft} problems={problems} set={set} />
        {draft.tiers.length === 0 && <Typography sx={{ my: 3 }}>{w.diagrams.empty}</Typography>}
        {problems.length > 0 && shown && (
          <Typography color="text.secondary" sx={{ my: 1 }}>
            {behind ? w.diagrams.lastGood : w.diagrams.partial}
          </Typography>
        )}
        <TierEditor
          draft={draft}
          stone={shown}
          problems={problems}
          readings={solved?.readings ?? []}
          selected={selected}
          onSelect={(t) => {
            select(t);
            // Another tier's row ends the pulling of this one.
            if (pulled !== null && t !== pulled) setPulled(null);
          }}
          set={set}
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
          onMend={() => setDialog('order')}
          onStops={() => setDialog('stops')}
        />
      </StoneDesk>
      {dialog === 'order' && (
        <OrderDialog
          draft={draft}
          onClose={() => setDialog(null)}
          onTake={(next) => take(next, orderWords.taken)}
          take={orderWords.take}
        />
      )}
      {dialog === 'stops' && (
        <StopsDialog
          draft={draft}
          onClose={() => setDialog(null)}
          onTake={(next) => take(next, stopsWords.taken)}
        />
      )}
      {editing.theirs && (
        <Conflict
          mine={draftLines(draft)}
          theirs={draftLines(editing.theirs.draft)}
          onMine={session.keepMine}
          onTheirs={session.takeTheirs}
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
