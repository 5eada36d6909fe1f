import ExpandMore from '@mui/icons-material/ExpandMore';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';

export interface Entry {
  label: string;
  run?: () => void;
  /** A file to save. */
  href?: string;
}

/** A button with a few lesser actions behind it. */
export function MenuButton({ label, entries }: { label: string; entries: Entry[] }) {
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
      {anchor && (
        <Menu open anchorEl={anchor} onClose={() => setAnchor(null)}>
          {entries.map((e) => (
            <MenuItem
              key={e.label}
              {...(e.href ? { component: 'a', href: e.href, download: true } : {})}
              onClick={() => {
                setAnchor(null);
                e.run?.();
              }}
            >
              {e.label}
            </MenuItem>
          ))}
        </Menu>
      )}
    </>
  );
}
