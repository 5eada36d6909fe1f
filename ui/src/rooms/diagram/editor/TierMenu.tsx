import MoreVert from '@mui/icons-material/MoreVert';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import type { Draft, Reshape } from '../../../api/client';
import { editingWords } from '../../../words/editing';
import { FindAngleDialog } from './FindAngleDialog';
import { plainReshape, RenameDialog, SymmetryDialog } from './TierDialog';

const t = editingWords.tier;

interface Props {
  name: string;
  tier: number;
  /** The draft as it stands when a dialog is opened. */
  draft: () => Draft;
  onReshape: (how: Reshape) => void;
  onAngle: (angle: string) => void;
}

/** A dialog that is open, over the draft as it stood then. */
interface Asked {
  kind: 'complete' | 'rename' | 'angle';
  draft: Draft;
}

/** What can be done with a tier as a whole. */
export function TierMenu({ name, tier, draft, onReshape, onAngle }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [dialog, setDialog] = useState<Asked | null>(null);
  const keep = (how: Reshape) => {
    setDialog(null);
    onReshape(how);
  };
  const turn = (by: number): Reshape => ({ ...plainReshape, kind: 'turn', by });
  const entries: [string, () => void][] = [
    [t.complete, () => setDialog({ kind: 'complete', draft: draft() })],
    [t.writeOut, () => keep({ ...plainReshape, kind: 'write-out' })],
    [t.copy, () => keep({ ...plainReshape, kind: 'copy' })],
    [t.mirror, () => keep({ ...plainReshape, kind: 'mirror' })],
    [t.turnOn('1'), () => keep(turn(1))],
    [t.turnBack('1'), () => keep(turn(-1))],
    [t.findAngle, () => setDialog({ kind: 'angle', draft: draft() })],
    [t.rename, () => setDialog({ kind: 'rename', draft: draft() })],
  ];
  return (
    <>
      <IconButton onClick={(e) => setAnchor(e.currentTarget)} aria-label={t.actions(name)}>
        <MoreVert />
      </IconButton>
      {anchor && (
        <Menu open anchorEl={anchor} onClose={() => setAnchor(null)}>
          {entries.map(([label, run]) => (
            <MenuItem
              key={label}
              onClick={() => {
                setAnchor(null);
                run();
              }}
            >
              {label}
            </MenuItem>
          ))}
        </Menu>
      )}
      {dialog?.kind === 'complete' && (
        <SymmetryDialog
          draft={dialog.draft}
          tier={tier}
          onKeep={keep}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog?.kind === 'angle' && (
        <FindAngleDialog
          draft={dialog.draft}
          tier={tier}
          onTake={(angle) => {
            setDialog(null);
            onAngle(angle);
          }}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog?.kind === 'rename' && (
        <RenameDialog
          draft={dialog.draft}
          tier={tier}
          onKeep={keep}
          onClose={() => setDialog(null)}
        />
      )}
    </>
  );
}
