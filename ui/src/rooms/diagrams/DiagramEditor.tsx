import RedoOutlined from '@mui/icons-material/RedoOutlined';
import UndoOutlined from '@mui/icons-material/UndoOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Diagram, Draft } from '../../api/client';
import { useKeys } from '../../app/keys';
import { useNotice } from '../../app/notice';
import { Conflict } from '../../parts/Conflict';
import { PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { w } from '../../words/words';
import { SheetHead } from './SheetHead';
import { StoneDesk } from './StoneDesk';
import { TierEditor } from './TierEditor';
import { useDraft, type SaveState } from './useDraft';
import { useSolved } from './useSolved';

/** A diagram being typed or changed: the stone follows the tier table. */
export function DiagramEditor({ diagram }: { diagram: Diagram }) {
  const editing = useDraft(diagram);
  const { draft } = editing;
  const { solved, shown, behind } = useSolved(draft);
  const [selected, setSelected] = useState<string | null>(null);
  const say = useNotice();
  const problems = solved?.problems ?? [];
  const keep = () =>
    editing.keep.mutate(undefined, { onSuccess: () => say({ text: w.diagrams.kept }) });
  useKeys([
    { keys: ['Ctrl+z'], label: w.common.undo, run: editing.undo },
    { keys: ['Ctrl+Shift+z', 'Ctrl+y'], label: w.common.redo, run: editing.redo },
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
        onSelect={setSelected}
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
          onSelect={setSelected}
          set={editing.set}
        />
      </StoneDesk>
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
