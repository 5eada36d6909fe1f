import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { RepairPage } from '../../api/client';
import { benchQuery, fetchRepair, rereadStones } from '../../api/stones';
import { useKeys } from '../../parts/keys';
import { spentOf } from '../../log/fold';
import { keptWork } from '../../log/works';
import { Await, Care } from '../../parts/Page';
import { useStoneLog } from '../../parts/work/useStoneLog';
import { faces } from '../../theme/tokens';
import { clock } from '../../words/numbers';
import { photoWords } from '../../words/photos';
import { repairWords as r } from '../../words/repairs';
import { w } from '../../words/words';
import { useKeptOpen } from './reloads';
import { BenchFrame } from './BenchHead';
import { NoteDialog } from './NoteDialog';

/** The wheel for a stone without a diagram: what was agreed, the time, and notes. */
export function RepairBenchRoom() {
  const { id = '' } = useParams();
  const path = `/api/repairs/${id}`;
  const page = useQuery(
    benchQuery(path, () => keptWork(path, (signal) => fetchRepair(id, signal))),
  );
  useKeptOpen();
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={page}>{(p) => <RepairBench key={id} page={p} path={path} />}</Await>
    </Box>
  );
}

function RepairBench({ page, path }: { page: RepairPage; path: string }) {
  const { summary: s, intake } = page;
  const log = useStoneLog(s.workId);
  const [noting, setNoting] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { spent, since } = spentOf(log.state);
  const now = useNow(since !== undefined);
  // It may have been given back at the desk while this bench was open.
  const closed = s.state === 'finished' || log.state.finished;
  const toggle = () =>
    log.known && !closed && log.add([{ kind: since === undefined ? 'begin' : 'end', payload: {} }]);
  const leave = () => {
    void rereadStones(queries);
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
      <BenchFrame
        title={`${s.number} · ${s.name} · ${intake.material}`}
        path={path}
        onLeave={leave}
      />
      {log.known && (
        <Box sx={{ flexGrow: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          <Box sx={{ p: 4, overflow: 'auto', fontSize: '1.375rem' }}>
            {photo && (
              <Box
                component="img"
                src={`/api/photos/${photo.hash}`}
                alt={photoWords.photo(photoWords.photos, page.photos.length)}
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
              {log.state.notes.map((note) => (
                <Typography key={note.n}>{note.text}</Typography>
              ))}
            </Box>
            {closed && <Care>{r.closed}</Care>}
            <Button
              variant="contained"
              color="primary"
              onClick={toggle}
              disabled={closed}
              sx={{ minHeight: 'clamp(64px, 18vh, 180px)', fontSize: '1.75rem' }}
            >
              {since === undefined ? r.begin : r.end}
            </Button>
            <Button onClick={() => setNoting(true)} sx={{ minHeight: 64, fontSize: '1.125rem' }}>
              {w.bench.note}
            </Button>
          </Box>
        </Box>
      )}
      {noting && <NoteDialog add={log.add} onClose={() => setNoting(false)} />}
    </Box>
  );
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
