import ExpandMore from '@mui/icons-material/ExpandMore';
import MoreVert from '@mui/icons-material/MoreVert';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import type { SxProps } from '@mui/material/styles';
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

interface ButtonProps extends Props {
  sx?: SxProps;
  /** Height of an entry in px: at the wheel it is for a wet finger. */
  row?: number;
}

/** A button with a few lesser actions behind it. */
export function MenuButton({ label, entries, sx, row }: ButtonProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        endIcon={<ExpandMore />}
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
        sx={sx}
      >
        {label}
      </Button>
      <Entries anchor={anchor} entries={entries} row={row} onClose={() => setAnchor(null)} />
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
  row?: number | undefined;
  onClose: () => void;
}

function Entries({ anchor, entries, row, onClose }: EntriesProps) {
  if (!anchor) return null;
  return (
    <Menu open anchorEl={anchor} onClose={onClose}>
      {entries.map((e) => (
        <MenuItem
          key={e.label}
          sx={{ minHeight: row }}
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
