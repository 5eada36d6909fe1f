import Box from '@mui/material/Box';
import List from '@mui/material/List';
import ListItem from '@mui/material/ListItem';
import ListItemButton from '@mui/material/ListItemButton';
import type { KeyboardEvent, ReactNode } from 'react';

interface Props<T> {
  label: string;
  list: readonly T[];
  keyOf: (item: T, place: number) => string | number;
  isChosen: (item: T, place: number) => boolean;
  onChoose: (item: T, place: number) => void;
  /** What stands in a row. */
  children: (item: T, place: number) => ReactNode;
  /** What stands at its end and is not pressed with it. */
  aside?: (item: T) => ReactNode;
  /** The chosen row is marked as what is worked on now, not as what is selected. */
  now?: boolean;
  /** Height of a row in px. */
  row?: number;
  /** Height in px from which on the list scrolls. */
  most?: number;
}

/** A list with a chosen entry. The arrow keys go from row to row. */
export function ChoiceList<T>(props: Props<T>) {
  const { label, list, keyOf, isChosen, onChoose, children, aside, now, row = 44, most } = props;
  return (
    <List
      disablePadding
      aria-label={label}
      onKeyDown={walk}
      sx={{ maxHeight: most, overflow: most ? 'auto' : undefined }}
    >
      {list.map((item, i) => (
        <ListItem
          key={keyOf(item, i)}
          disablePadding
          divider
          sx={{
            background: (t) =>
              !isChosen(item, i) ? undefined : now ? t.tokens.emberWash : t.tokens.copperWash,
          }}
        >
          <ListItemButton
            component="button"
            aria-pressed={isChosen(item, i)}
            onClick={() => onChoose(item, i)}
            sx={{
              minWidth: 0,
              minHeight: row,
              px: 2,
              py: 0,
              gap: 2,
              justifyContent: 'space-between',
              border: 0,
              font: 'inherit',
              fontWeight: 600,
              color: 'inherit',
              background: 'none',
              textAlign: 'left',
            }}
          >
            {children(item, i)}
          </ListItemButton>
          {aside && <Box sx={{ flexShrink: 0 }}>{aside(item)}</Box>}
        </ListItem>
      ))}
    </List>
  );
}

/** Moves the focus a row on or back. */
function walk(e: KeyboardEvent<HTMLElement>): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
  if (by === undefined) return;
  const rows = [...e.currentTarget.querySelectorAll<HTMLElement>('button[aria-pressed]')];
  const at = rows.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  e.preventDefault();
  e.stopPropagation();
  rows[Math.max(0, Math.min(rows.length - 1, at + by))]!.focus();
}
