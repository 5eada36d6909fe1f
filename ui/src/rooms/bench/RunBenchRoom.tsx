import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, type BenchScript, type RunScript } from '../../api/client';
import { Await } from '../../parts/Page';
import { runWords } from '../../words/runs';
import { w } from '../../words/words';
import { useKeptOpen } from './aside';
import { Bench, type Standing } from './BenchRoom';

/** The wheel for a run: one stone is on the dop, the others lie beside it. */
export function RunBenchRoom() {
  const { id = '' } = useParams();
  const script = useQuery({
    queryKey: ['bench', 'run', id],
    queryFn: () => answer(client.GET('/api/runs/{id}/script', { params: { path: { id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });
  useKeptOpen(`/api/runs/${id}/script`);
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={script}>{(s) => <RunBench key={id} run={s} />}</Await>
    </Box>
  );
}

function RunBench({ run }: { run: RunScript }) {
  const scripts = useMemo(() => run.stones.map((_, i) => scriptOf(run, i)), [run]);
  const blocks = useMemo(() => blocksOf(run.script), [run.script]);
  const [standings, setStandings] = useState<Record<number, Standing>>({});
  const tell = useCallback(
    (i: number, s: Standing) => setStandings((all) => ({ ...all, [i]: s })),
    [],
  );
  const known = Object.keys(standings).length === scripts.length;
  const now = known ? current(run, blocks, standings) : undefined;
  const back = () => {
    const last = Object.values(standings).reduce((a, b) => (b.touched > a.touched ? b : a));
    last.back();
  };
  const stone = now === undefined ? undefined : run.stones[now];
  const leaveTo = `/runs/${run.run.id}`;
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      {stone && now !== undefined && (
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
            {runWords.ways[run.run.way]}
          </Typography>
        </Box>
      )}
      <Box sx={{ flexGrow: 1, minHeight: 0 }}>
        {scripts.map((s, i) => (
          <OneOfRun
            key={run.stones[i]!.id}
            stone={run.stones[i]!.id}
            script={s}
            place={i}
            active={i === now}
            tell={tell}
            onBack={back}
            leaveTo={leaveTo}
          />
        ))}
        {known && now === undefined && (
          <Box sx={{ p: 8 }}>
            <Typography variant="h1" gutterBottom>
              {runWords.done}
            </Typography>
            <Box sx={{ display: 'flex', gap: 2 }}>
              <Button onClick={back}>{w.bench.back}</Button>
              <Button variant="contained" component={Link} to={leaveTo}>
                {runWords.toRun}
              </Button>
            </Box>
          </Box>
        )}
      </Box>
    </Box>
  );
}

function OneOfRun(props: {
  stone: string;
  script: BenchScript;
  place: number;
  active: boolean;
  tell: (place: number, s: Standing) => void;
  onBack: () => void;
  leaveTo: string;
}) {
  const { place, tell } = props;
  const onStanding = useCallback((s: Standing) => tell(place, s), [place, tell]);
  return (
    <Bench
      stone={props.stone}
      script={props.script}
      active={props.active}
      onStanding={onStanding}
      onBack={props.onBack}
      leaveTo={props.leaveTo}
    />
  );
}

/** The script of one stone of a run: that of the first, with the stone's own setups. */
function scriptOf(run: RunScript, place: number): BenchScript {
  const { script } = run;
  const own = run.stones[place]!;
  const setup = (id: string) => own.setups[script.setups.findIndex((s) => s.id === id)]!.id;
  return {
    ...script,
    number: own.number,
    name: own.name,
    planNo: own.planNo,
    finished: own.finished,
    setups: own.setups,
    visits: script.visits.map((v) => ({ ...v, setup: setup(v.setup) })),
    events: own.events,
  };
}

/** For every visit the number of its block: visits to one tier in one pass of one setup. */
function blocksOf(script: BenchScript): number[] {
  let block = -1;
  let last = '';
  return script.visits.map((v) => {
    const name = `${v.setup}/${v.pass}/${script.facets[v.facet]!.tier}`;
    if (name !== last) block++;
    last = name;
    return block;
  });
}

/** The place of the stone that comes to the wheel now; undefined where all are cut. */
function current(
  run: RunScript,
  blocks: number[],
  standings: Record<number, Standing>,
): number | undefined {
  const open = run.stones
    .map((s, i) => ({ i, at: standings[i]!.at, closed: s.finished }))
    .filter((s) => !s.closed && s.at < blocks.length);
  if (run.run.way === 'stone') return open[0]?.i;
  const first = Math.min(...open.map((s) => blocks[s.at]!));
  return open.find((s) => blocks[s.at] === first)?.i;
}
