import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { answer, client, type BenchEvent, type RepairPage } from '../../api/client';
import { repairQuery } from '../../api/queries';
import { useKeys } from '../../app/keys';
import { Await, Care } from '../../parts/Page';
import { faces } from '../../theme/tokens';
import { clock } from '../../words/numbers';
import { repairWords as r } from '../../words/repairs';
import { w } from '../../words/words';
import { useKeptOpen } from './aside';
import { NoteDialog } from './NoteDialog';
import { standing } from './state';
import { useBenchLog } from './useBenchLog';

/** The wheel for a stone without a diagram: what was agreed, the time, and notes. */
export function RepairBenchRoom() {
  const { id = '' } = useParams();
  const page = useQuery({
    queryKey: ['bench', 'repair', id],
    queryFn: () => answer(client.GET('/api/repairs/{id}', { params: { path: { id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });
  useKeptOpen(`/api/repairs/${id}`);
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={page}>{(p) => <RepairBench key={id} page={p} />}</Await>
    </Box>
  );
}

function RepairBench({ page }: { page: RepairPage }) {
  const { summary: s } = page;
  const intake = s.work.intake!;
  const log = useBenchLog(s.id, page.events);
  const [noting, setNoting] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { spent, since } = stretches(log.events);
  const now = useNow(since !== undefined);
  const toggle = () => log.add([{ kind: since === undefined ? 'begin' : 'end' }]);
  const leave = () => {
    void queries.invalidateQueries({ queryKey: repairQuery(s.id).queryKey });
    void navigate(`/repairs/${s.id}`);
  };
  useKeys([
    { keys: ['Enter', ' '], label: since === undefined ? r.begin : r.end, run: toggle },
    { keys: ['n'], label: w.bench.keys.note, run: () => setNoting(true) },
    { keys: ['Escape'], label: w.bench.keys.leave, run: leave },
  ]);
  const photo = page.photos.at(-1);
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          borderBottom: 1,
          borderColor: 'divider',
          px: 3,
          display: 'flex',
          alignItems: 'center',
          gap: 3,
          minHeight: 64,
        }}
      >
        <IconButton onClick={leave} aria-label={w.bench.leave} sx={{ width: 64, height: 64 }}>
          <Close />
        </IconButton>
        <Typography component="h1" variant="h2" noWrap sx={{ flexGrow: 1 }}>
          {s.number} · {s.name} · {intake.material}
        </Typography>
        <Typography color="text.secondary">
          {log.hollow.size > 0 ? w.bench.waiting(log.hollow.size) : w.bench.onDisk}
        </Typography>
      </Box>
      <div role="status">
        {log.fleeting && <Care>{w.bench.fleeting}</Care>}
        {log.away && <Care>{w.bench.away(log.hollow.size)}</Care>}
      </div>
      <Box sx={{ flexGrow: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
        <Box sx={{ p: 4, overflow: 'auto', fontSize: '1.375rem' }}>
          {photo && (
            <Box
              component="img"
              src={`/api/photos/${photo.hash}`}
              alt={r.photo(page.photos.length)}
              sx={{ maxWidth: '100%', maxHeight: '50vh', display: 'block', mb: 4 }}
            />
          )}
          <Typography variant="h3">{r.damage}</Typography>
          <Typography sx={{ fontSize: 'inherit', mb: 3 }}>{intake.damage || '–'}</Typography>
          <Typography variant="h3">{r.agreed}</Typography>
          <Typography sx={{ fontSize: 'inherit' }}>{intake.agreed || '–'}</Typography>
        </Box>
        <Box
          sx={{
            borderLeft: 1,
            borderColor: 'divider',
            p: 4,
            display: 'flex',
            flexDirection: 'column',
            gap: 3,
          }}
        >
          <Typography color="text.secondary">
            {r.spent} · {since === undefined ? r.paused : r.running}
          </Typography>
          <Box
            data-clock=""
            sx={{
              fontFamily: faces.figures,
              fontWeight: 600,
              fontSize: 'clamp(48px, 10vw, 130px)',
              lineHeight: 1,
              color: since === undefined ? 'text.primary' : 'secondary.main',
            }}
          >
            {clock(spent + (since === undefined ? 0 : Math.max(0, now - since)))}
          </Box>
          <Box sx={{ flexGrow: 1, overflow: 'auto' }}>
            {standing(log.events)
              .filter((e) => e.kind === 'note')
              .map((e) => (
                <Typography key={e.id}>{e.text}</Typography>
              ))}
          </Box>
          <Button
            variant="contained"
            color="primary"
            onClick={toggle}
            sx={{ minHeight: 'clamp(64px, 18vh, 180px)', fontSize: '1.75rem' }}
          >
            {since === undefined ? r.begin : r.end}
          </Button>
          <Button onClick={() => setNoting(true)} sx={{ minHeight: 64, fontSize: '1.125rem' }}>
            {w.bench.note}
          </Button>
        </Box>
      </Box>
      {noting && <NoteDialog log={log} onClose={() => setNoting(false)} />}
    </Box>
  );
}

/** The time between begin and pause, in ms, and since when the present stretch runs. */
function stretches(events: readonly BenchEvent[]): { spent: number; since: number | undefined } {
  let spent = 0;
  let since: number | undefined;
  const ordered = standing(events).sort((a, b) => a.deviceTime.localeCompare(b.deviceTime));
  for (const e of ordered) {
    const at = Date.parse(e.deviceTime);
    if (e.kind === 'begin') since ??= at;
    if (e.kind === 'end' && since !== undefined) {
      spent += at - since;
      since = undefined;
    }
  }
  return { spent, since };
}

/** The time, told every second while it runs. */
function useNow(runs: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [runs]);
  return now;
}
