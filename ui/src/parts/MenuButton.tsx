import ExpandMore from '@mui/icons-material/ExpandMore';
import MoreVert from '@mui/icons-material/MoreVert';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';

export interface Entry {
  label: string;
  run?: () => void;
  /** A file to save. */
  href?: string;
}

interface Props {
  label: string;
  entries: Entry[];
}

/** A button with a few lesser actions behind it. */
export function MenuButton({ label, entries }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        endIcon={<ExpandMore />}
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
      >
        {label}
      </Button>
      <Entries anchor={anchor} entries={entries} onClose={() => setAnchor(null)} />
    </>
  );
}

/** The same behind three dots, where what they belong to is plain from their place. */
export function IconMenu({ label, entries }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <IconButton
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-label={label}
        aria-haspopup="menu"
      >
        <MoreVert />
      </IconButton>
      <Entries anchor={anchor} entries={entries} onClose={() => setAnchor(null)} />
    </>
  );
}

interface EntriesProps {
  anchor: HTMLElement | null;
  entries: Entry[];
  onClose: () => void;
}

function Entries({ anchor, entries, onClose }: EntriesProps) {
  if (!anchor) return null;
  return (
    <Menu open anchorEl={anchor} onClose={onClose}>
      {entries.map((e) => (
        <MenuItem
          key={e.label}
          {...(e.href ? { component: 'a', href: e.href, download: true } : {})}
          onClick={() => {
            onClose();
            e.run?.();
          }}
        >
          {e.label}
        </MenuItem>
      ))}
    </Menu>
  );
}
