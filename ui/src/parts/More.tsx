import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { w } from '../words/words';

interface Paged {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => unknown;
}

/** The button under a list that goes on. */
export function More({ query, shown, total }: { query: Paged; shown: number; total: number }) {
  if (!query.hasNextPage) return null;
  return (
    <Box sx={{ p: 6, textAlign: 'center' }}>
      <Button disabled={query.isFetchingNextPage} onClick={() => void query.fetchNextPage()}>
        {w.common.more(shown, total)}
      </Button>
    </Box>
  );
}
