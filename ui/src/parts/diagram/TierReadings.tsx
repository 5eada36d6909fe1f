import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Reading } from '../../api/client';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';

const r = editingWords.reading;

interface Props {
  name: string;
  readings: Reading[];
  /** An open tier tells all that was read, a closed one only what should be looked at. */
  open: boolean;
  /** Writes what a field was read as into it, so that it is no longer in doubt. */
  onTake: (field: string, read: string) => void;
}

/** What the words in a tier's fields were read as, and what is asked of them. */
export function TierReadings({ name, readings, open, onTake }: Props) {
  const shown = readings.filter((g) => !g.sure || open);
  if (shown.length === 0) return null;
  return (
    <Box component="ul" aria-label={r.label(name)} sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {shown.map((g) => (
        <Box
          component="li"
          key={g.field}
          sx={{
            display: 'flex',
            flexWrap: 'wrap',
            alignItems: 'center',
            columnGap: 2,
            fontSize: '0.875rem',
            color: g.sure ? 'text.secondary' : 'text.primary',
          }}
        >
          <span>
            {!g.sure && (
              <Box component="strong" aria-hidden sx={{ color: 'secondary.main', mr: 1 }}>
                ?
              </Box>
            )}
            {g.field !== 'part' && g.says && (
              <>
                {r.as(r.fields[g.field] ?? g.field)} <strong>{g.says}</strong>
                {g.asks ? '. ' : ''}
              </>
            )}
            {g.asks}
          </span>
          {!g.sure && <Answers reading={g} onTake={onTake} />}
        </Box>
      ))}
    </Box>
  );
}

/** A girdle out of the ordinary is pointed out; there is nothing to write in its place. */
const remarks = new Set(['girdle-odd', 'width-needed']);

function Answers({ reading: g, onTake }: { reading: Reading; onTake: Props['onTake'] }) {
  if (g.field === 'part') {
    return ['pavilion', 'crown', 'girdle'].map((part) => (
      <Button key={part} size="small" sx={small} onClick={() => onTake('part', part)}>
        {w.tiers.parts[part]}
      </Button>
    ));
  }
  if (g.read === '' || remarks.has(g.how)) return null;
  return (
    <Button size="small" sx={small} onClick={() => onTake(g.field, g.read)}>
      {r.yes}
    </Button>
  );
}

const small = { minHeight: 30, py: 0 };
