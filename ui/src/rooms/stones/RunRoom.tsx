import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { runQuery } from '../../api/stones';
import { Await, PageHead } from '../../parts/Page';
import { runWords } from '../../words/runs';
import { StoneTable } from './StonesRoom';

/** A run: its stones, and the wheel for all of them. */
export function RunRoom() {
  const { id = '' } = useParams();
  const run = useQuery(runQuery(id));
  return (
    <Await query={run}>
      {(r) => (
        <>
          <PageHead
            title={runWords.title(r.run.name)}
            facts={[
              r.stones[0]?.diagram ?? '',
              r.stones[0]?.material ?? '',
              runWords.orders[r.run.order] ?? '',
              r.next ? runWords.next(r.next.number, r.next.tier, r.next.tooth) : runWords.done,
            ]}
          >
            <Button component={Link} to={`/runs/${id}/sheet`}>
              {runWords.sheet}
            </Button>
            <Button variant="contained" component={Link} to={`/bench/run/${id}`}>
              {runWords.bench}
            </Button>
          </PageHead>
          <StoneTable stones={r.stones} hours />
        </>
      )}
    </Await>
  );
}
