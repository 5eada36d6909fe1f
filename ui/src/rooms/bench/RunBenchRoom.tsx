import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import type { BenchScript, RunScript } from '../../api/client';
import { benchQuery, fetchRunScript } from '../../api/stones';
import { keptWork } from '../../log/works';
import { Await } from '../../parts/Page';
import { useStoneLogs } from '../../parts/work/useStoneLog';
import { runWords } from '../../words/runs';
import { w } from '../../words/words';
import { useKeptOpen } from './reloads';
import { Bench } from './BenchRoom';
import type { Reread } from './reread';
import { latest, nextStone } from '../../log/run';
import { standingOf } from '../../log/standing';
import { takenBack } from './work';

/** The wheel for a run: one stone is on the dop, the others lie beside it. */
export function RunBenchRoom() {
  const { id = '' } = useParams();
  const path = `/api/runs/${id}/script`;
  const script = useQuery(
    benchQuery(path, () => keptWork(path, (signal) => fetchRunScript(id, signal))),
  );
  useKeptOpen();
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={script}>
        {(s) => <RunBench key={id} run={s} path={path} reread={script.refetch} />}
      </Await>
    </Box>
  );
}

function RunBench({ run, path, reread }: { run: RunScript; path: string; reread: Reread }) {
  const scripts = useMemo(() => run.stones.map((_, i) => scriptOf(run, i)), [run]);
  const logs = useStoneLogs(run.stones.map((s) => s.workId));
  const standings = scripts.map((s, i) => standingOf(s, logs[i]!.state));
  const closed = run.stones.map((s, i) => s.finished || logs[i]!.state.finished);
  const leaveTo = `/runs/${run.run.id}`;
  if (!logs.every((l) => l.known)) return null;
  const now = nextStone(
    run.run.order,
    run.script.visits,
    standings.map((s, i) => ({ at: s.at, closed: closed[i]! })),
  );
  const back = (wholeTier: boolean) => {
    // What was done to a finished stone stays done.
    const last = latest(standings.map((s, i) => (closed[i] ? undefined : s.last)));
    if (last !== undefined) logs[last]!.add(takenBack(scripts[last]!, standings[last]!, wholeTier));
  };
  if (now === undefined)
    return (
      <Box sx={{ p: 8 }}>
        <Typography variant="h1" gutterBottom>
          {runWords.done}
        </Typography>
        <Box sx={{ display: 'flex', gap: 2 }}>
          <Button onClick={() => back(false)}>{w.bench.back}</Button>
          <Button variant="contained" component={Link} to={leaveTo}>
            {runWords.toRun}
          </Button>
        </Box>
      </Box>
    );
  const stone = run.stones[now]!;
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <Box
        role="status"
        sx={{
          background: (t) => t.tokens.emberWash,
          px: 4,
          py: 1,
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Typography sx={{ fontWeight: 600 }} data-stone={stone.number}>
          {runWords.now(now + 1, run.stones.length, stone.number)} · {run.run.name} ·{' '}
          {runWords.orders[run.run.order]}
        </Typography>
      </Box>
      <Box sx={{ flexGrow: 1, minHeight: 0 }}>
        <Bench
          script={scripts[now]!}
          log={logs[now]!}
          path={path}
          leaveTo={leaveTo}
          reread={reread}
          onBack={back}
        />
      </Box>
    </Box>
  );
}

/** The script of one stone of a run: that of the first, with the stone's own setups. */
function scriptOf(run: RunScript, place: number): BenchScript {
  const { script } = run;
  const own = run.stones[place]!;
  const setup = (id: string) => own.setups[script.setups.findIndex((s) => s.id === id)]!.id;
  return {
    ...script,
    stoneId: own.id,
    workId: own.workId,
    number: own.number,
    name: own.name,
    planNo: own.planNo,
    finished: own.finished,
    setups: own.setups,
    visits: script.visits.map((v) => ({ ...v, setup: setup(v.setup) })),
  };
}
