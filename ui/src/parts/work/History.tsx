import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { HistoryEntry } from '../../api/client';
import { moment } from '../../words/numbers';
import { w } from '../../words/words';

interface Props {
  history: readonly HistoryEntry[];
  /** What the kinds of entry are called. */
  kinds: Record<string, string>;
}

/** Notes and turning points of a work; single cuts are in its progress. */
export function History({ history, kinds }: Props) {
  if (history.length === 0) return null;
  return (
    <Box component="section">
      <Typography variant="h3" gutterBottom>
        {w.stones.log}
      </Typography>
      {history.map((e) => (
        <Typography key={e.id} sx={{ whiteSpace: 'pre-line' }}>
          <Typography component="span" variant="figures" color="text.secondary">
            {moment(e.at)}
          </Typography>{' '}
          {kinds[e.kind]}{' '}
          {e.facet && `${w.stones.notedAt(e.facet.tier, e.facet.tooth, e.facet.pass)}: `}
          {e.text}
        </Typography>
      ))}
    </Box>
  );
}
