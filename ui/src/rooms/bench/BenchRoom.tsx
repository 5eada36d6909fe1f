import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { BenchScript } from '../../api/client';
import { benchQuery, fetchScript } from '../../api/stones';
import { useKeys } from '../../parts/keys';
import type { Happening } from '../../log/events';
import { keptWork } from '../../log/works';
import { Await } from '../../parts/Page';
import { useStoneLog, type StoneLog } from '../../parts/work/useStoneLog';
import { threadWords } from '../../words/thread';
import { w } from '../../words/words';
import { useKeptOpen } from './reloads';
import { BenchEnd } from './BenchEnd';
import { BenchHead } from './BenchHead';
import { FacetScreen } from './FacetScreen';
import { NewPlan } from './NewPlan';
import { NoteDialog } from './NoteDialog';
import { standingOf, visitOf } from '../../log/standing';
import { Thread } from '../../parts/work/Thread';
import { TransferScreen } from './TransferScreen';
import { ticked, type Habit } from './work';

/** At the wheel: one stone, one thing at a time. The whole script is fetched when the bench opens. */
export function BenchRoom() {
  const { id = '' } = useParams();
  const path = `/api/stones/${id}/script`;
  const script = useQuery(
    benchQuery(path, () => keptWork(path, (signal) => fetchScript(id, signal))),
  );
  useKeptOpen();
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={script}>
        {(s) => <OneStone key={id} script={s} path={path} reread={script.refetch} />}
      </Await>
    </Box>
  );
}

function OneStone(props: { script: BenchScript; path: string; reread: Reread }) {
  const { script, path, reread } = props;
  const log = useStoneLog(script.workId);
  return (
    <Bench
      script={script}
      log={log}
      path={path}
      leaveTo={`/stones/${script.stoneId}`}
      reread={reread}
    />
  );
}

/** Fetches the script of a changed plan. */
export type Reread = () => Promise<unknown>;

interface BenchProps {
  script: BenchScript;
  log: StoneLog;
  /** Where the script comes from. */
  path: string;
  /** Where leaving leads. */
  leaveTo: string;
  reread: Reread;
  /** Takes back what was done last, in the whole run where it is one. */
  onBack?: () => void;
}

/** The bench with one stone on it. */
export function Bench({ script, log, path, leaveTo, reread, onBack }: BenchProps) {
  const [chosen, setHabit] = useState<Habit>();
  const habit = chosen ?? (script.tick as Habit);
  const [noting, setNoting] = useState(false);
  const [catching, setCatching] = useState(false);
  const navigate = useNavigate();
  const state = standingOf(script, log.state);
  const visit = script.visits[state.at];
  // Until the log was read nobody knows what comes next; a changed plan has to be read first.
  const changed = log.state.plan > script.planNo;
  // Its card may have been written at another screen while this bench was open.
  const closed = script.finished || log.state.finished;
  const ready = log.known && !changed && !closed;

  const back = () => state.last && log.add([{ kind: 'undo', payload: { undoes: state.last.id } }]);
  const happen = (kind: 'done' | 'skip', habit: Habit): Happening[] =>
    ticked(script, state, habit).map((i) => ({ kind, payload: visitOf(script, i) }));
  const leave = () => void navigate(leaveTo);
  const cutting = ready && visit && !state.transfer;
  const actions = {
    done: () => cutting && log.add(happen('done', habit)),
    skip: () => cutting && log.add(happen('skip', 'facet')),
    back: () => ready && (onBack ?? back)(),
    note: () => setNoting(true),
    catchUp: () => setCatching(true),
  };
  useKeys([
    { keys: ['Enter', ' '], label: w.bench.keys.done, run: actions.done },
    { keys: ['Backspace', 'ArrowLeft'], label: w.bench.keys.back, run: actions.back },
    { keys: ['s'], label: w.bench.keys.skip, run: actions.skip },
    { keys: ['n'], label: w.bench.keys.note, run: actions.note },
    { keys: ['c'], label: threadWords.open, run: actions.catchUp },
    { keys: ['Escape'], label: w.bench.keys.leave, run: leave },
  ]);
  useEffect(() => {
    document.title = `${w.bench.title} · ${script.number} · ${w.name}`;
  }, [script.number]);
  const screen = () => {
    if (!log.known) return null;
    if (changed) return <NewPlan no={log.state.plan} onRead={reread} />;
    if (closed) return <BenchEnd stone={script.stoneId} finished late={log.state.late} />;
    if (!visit) return <BenchEnd stone={script.stoneId} onBack={actions.back} />;
    if (state.transfer)
      return <TransferScreen script={script} state={state} log={log} onBack={actions.back} />;
    return (
      <FacetScreen
        script={script}
        state={state}
        count={ticked(script, state, habit).length}
        habit={habit}
        {...actions}
      />
    );
  };
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <BenchHead
        script={script}
        known={log.known}
        state={state}
        path={path}
        habit={habit}
        onHabit={setHabit}
        onLeave={leave}
      />
      <Box sx={{ flexGrow: 1, minHeight: 0 }}>{screen()}</Box>
      {catching && (
        <Dialog open onClose={() => setCatching(false)} fullWidth maxWidth="lg">
          <DialogTitle>{threadWords.open}</DialogTitle>
          <DialogContent>
            <Thread script={script} log={log} closed={closed} high={72} />
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setCatching(false)} sx={{ minHeight: 64 }}>
              {w.common.close}
            </Button>
          </DialogActions>
        </Dialog>
      )}
      {noting && <NoteDialog add={log.add} onClose={() => setNoting(false)} />}
    </Box>
  );
}
