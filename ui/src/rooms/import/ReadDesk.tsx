import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Place, ReadFile } from '../../api/client';
import type { HeldSolid } from '../../api/solving';
import { Care } from '../../parts/Page';
import { libraryWords as l } from '../../words/library';
import type { Entry } from './ImportRoom';
import { ReadSheet } from './ReadSheet';
import { SolidHold } from './SolidHold';

interface Props {
  entry: Entry;
  /** A solid is held otherwise. */
  onHold: (solid: HeldSolid) => void;
  /** What was read has been completed, or its text corrected. */
  onRead: (read: ReadFile, text?: string) => void;
}

/** What came in: a sheet beside the stone it makes, a solid as it is held, or why it is neither. */
export function ReadDesk({ entry, onHold, onRead }: Props) {
  if (entry.refused) {
    return (
      <Box sx={{ p: 4 }} role="alert">
        <Typography variant="h2">{entry.name}</Typography>
        {entry.refused.map((p, i) => (
          <Care key={i} grave>
            <PlaceOf place={p} /> {p.message}
          </Care>
        ))}
      </Box>
    );
  }
  if (entry.solid) {
    return (
      <Box sx={{ p: 4 }}>
        <Typography variant="h2" gutterBottom>
          {entry.name}
        </Typography>
        <SolidHold solid={entry.solid} onHold={onHold} />
      </Box>
    );
  }
  return entry.read && <ReadSheet entry={entry} read={entry.read} onRead={onRead} />;
}

/** Where in a text something is. */
export function PlaceOf({ place: p }: { place: Place }) {
  if (p.line === 0) return null;
  return (
    <strong>
      {l.place(p.line, p.column)}
      {p.tierName && `, ${p.tierName}`}:
    </strong>
  );
}
