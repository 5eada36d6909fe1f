import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { BenchScript } from '../../api/client';
import { scriptQuery } from '../../api/queries';
import { useKeys } from '../../app/keys';
import { Await } from '../../parts/Page';
import { threadWords } from '../../words/thread';
import { w } from '../../words/words';
import { useKeptOpen } from './aside';
import { BenchEnd } from './BenchEnd';
import { BenchHead } from './BenchHead';
import { FacetScreen } from './FacetScreen';
import { NoteDialog } from './NoteDialog';
import { benchState } from './state';
import { Thread } from './Thread';
import { TransferScreen } from './TransferScreen';
import { useBenchLog, type Happening } from './useBenchLog';
import { ticked, type Habit } from './work';

/** At the wheel: one stone, one thing at a time. The whole script is fetched when the bench opens. */
export function BenchRoom() {
  const { id = '' } = useParams();
  // Fetched once, apart from what other rooms hold: a lost server must not stop the wheel.
  const script = useQuery({
    ...scriptQuery(id),
    queryKey: ['bench', id],
    staleTime: Infinity,
    gcTime: 0,
  });
  useKeptOpen(`/api/stones/${id}/script`);
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={script}>{(s) => <Bench key={id} stone={id} script={s} />}</Await>
    </Box>
  );
}

/** How a stone of a run stands, told to the run. */
export interface Standing {
  /** The visit that comes next; the number of visits where all are done. */
  at: number;
  /** When it was last worked on, '' where it was not yet. */
  touched: string;
  back: () => void;
}

interface BenchProps {
  stone: string;
  script: BenchScript;
  /** In a run only one stone is at the wheel; the others wait unseen. */
  active?: boolean;
  onStanding?: (s: Standing) => void;
  /** Takes back what was done last in the whole run. */
  onBack?: () => void;
  /** Where leaving leads. */
  leaveTo?: string;
}

export function Bench(props: BenchProps) {
  const { stone, script, active = true, onStanding, onBack, leaveTo } = props;
  const log = useBenchLog(stone, script.events);
  const [chosen, setHabit] = useState<Habit>();
  const habit = chosen ?? (script.tick as Habit);
  const [noting, setNoting] = useState(false);
  const [catching, setCatching] = useState(false);
  const navigate = useNavigate();
  const state = benchState(script, log.events);
  const visit = script.visits[state.at];

  const back = () => state.last && log.add([{ kind: 'undo', undoes: state.last.id }]);
  const happen = (kind: 'done' | 'skip', habit: Habit): Happening[] =>
    ticked(script, state, habit).map((i) => {
      const v = script.visits[i]!;
      return { kind, setup: v.setup, pass: v.pass, facet: script.facets[v.facet]!.id };
    });
  const leave = () => void navigate(leaveTo ?? `/stones/${stone}`);
  const actions = {
    done: () => visit && !state.transfer && log.add(happen('done', habit)),
    skip: () => visit && !state.transfer && log.add(happen('skip', 'facet')),
    back: onBack ?? back,
    note: () => setNoting(true),
    catchUp: () => setCatching(true),
  };
  const keys = [
    { keys: ['Enter', ' '], label: w.bench.keys.done, run: actions.done },
    { keys: ['Backspace', 'ArrowLeft'], label: w.bench.keys.back, run: actions.back },
    { keys: ['s'], label: w.bench.keys.skip, run: actions.skip },
    { keys: ['n'], label: w.bench.keys.note, run: actions.note },
    { keys: ['c'], label: threadWords.open, run: actions.catchUp },
    { keys: ['Escape'], label: w.bench.keys.leave, run: leave },
  ];
  useKeys(active ? keys : []);
  const touched = state.last?.deviceTime ?? '';
  const { at } = state;
  const backRef = useRef(back);
  useEffect(() => {
    backRef.current = back;
  });
  useEffect(() => {
    onStanding?.({ at, touched, back: () => backRef.current() });
  }, [onStanding, at, touched]);
  useEffect(() => {
    if (!active) return;
    document.title = `${w.bench.title} · ${script.number} · ${w.name}`;
  }, [active, script.number]);
  if (!active) return null;
  const screen = () => {
    if (script.finished) return <BenchEnd stone={stone} finished />;
    if (!visit) return <BenchEnd stone={stone} onBack={actions.back} />;
    if (state.transfer)
      return <TransferScreen script={script} state={state} log={log} onBack={actions.back} />;
    return (
      <FacetScreen
        script={script}
        state={state}
        hollow={log.hollow}
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
        state={state}
        log={log}
        habit={habit}
        onHabit={setHabit}
        onLeave={leave}
      />
      <Box sx={{ flexGrow: 1, minHeight: 0 }}>{screen()}</Box>
      {catching && (
        <Dialog open onClose={() => setCatching(false)} fullWidth maxWidth="lg">
          <DialogTitle>{threadWords.open}</DialogTitle>
          <DialogContent>
            <Thread script={script} log={log} closed={script.finished} high={72} />
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setCatching(false)} sx={{ minHeight: 64 }}>
              {w.common.close}
            </Button>
          </DialogActions>
        </Dialog>
      )}
      {noting && <NoteDialog log={log} onClose={() => setNoting(false)} />}
    </Box>
  );
}
