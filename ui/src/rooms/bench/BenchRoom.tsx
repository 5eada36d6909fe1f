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
import { AdapterScreen } from './AdapterScreen';
import { BenchEnd } from './BenchEnd';
import { BenchHead } from './BenchHead';
import { FacetScreen } from './FacetScreen';
import { NewPlan } from './NewPlan';
import { NoteDialog } from './NoteDialog';
import type { Reread } from './reread';
import { standingOf, visitOf } from '../../log/standing';
import { Thread } from '../../parts/work/Thread';
import { passName } from '../../parts/work/visitWords';
import { TransferScreen } from './TransferScreen';
import { SkippedList, SkippedScreen } from './SkippedList';
import { useHabit } from './useHabit';
import { useSkipped } from './useSkipped';
import { facetName, takenBack, ticked, type Habit } from './work';

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

interface BenchProps {
  script: BenchScript;
  log: StoneLog;
  /** Where the script comes from. */
  path: string;
  /** Where leaving leads. */
  leaveTo: string;
  reread: Reread;
  /** Takes back what was done last, in the whole run where it is one. */
  onBack?: (wholeTier: boolean) => void;
}

/** The bench with one stone on it. */
export function Bench({ script, log, path, leaveTo, reread, onBack }: BenchProps) {
  const [habit, setHabit] = useHabit(path, script.tick);
  const [noting, setNoting] = useState(false);
  const [catching, setCatching] = useState(false);
  const navigate = useNavigate();
  const state = standingOf(script, log.state);
  const visit = script.visits[state.at];
  const skipped = useSkipped(script, state);
  // Until the log was read nobody knows what comes next; a changed plan has to be read first.
  const changed = log.state.plan > script.planNo;
  // Its card may have been written at another screen while this bench was open.
  const closed = script.finished || log.state.finished;
  const ready = log.known && !changed && !closed;

  const back = (wholeTier: boolean) => {
    if (onBack) onBack(wholeTier);
    else if (state.last) log.add(takenBack(script, state, wholeTier));
  };
  const happen = (kind: 'done' | 'skip', habit: Habit): Happening[] =>
    ticked(script, state, habit).map((i) => ({ kind, payload: visitOf(script, i) }));
  const leave = () => void navigate(leaveTo);
  const one = ready ? skipped.one : undefined;
  const cutting = ready && visit && !state.gate && skipped.listed.length === 0;
  // The visit that stands on the screen.
  const shown = one ?? (cutting ? state.at : undefined);
  const actions = {
    done: () => {
      if (one !== undefined) log.add([{ kind: 'done', payload: visitOf(script, one) }]);
      else if (cutting) log.add(happen('done', habit));
    },
    skip: () => {
      if (one !== undefined) skipped.putBack();
      else if (cutting) log.add(happen('skip', 'facet'));
    },
    back: () => {
      if (one !== undefined) skipped.putBack();
      else if (skipped.asked) skipped.show(false);
      else if (ready) back(false);
    },
    backTier: () => {
      if (ready && one === undefined && !skipped.asked) back(true);
    },
    note: () => setNoting(true),
    catchUp: () => setCatching(true),
  };
  useKeys([
    { keys: ['Enter', ' '], label: w.bench.keys.done, run: actions.done },
    { keys: ['Backspace', 'ArrowLeft'], label: w.bench.keys.back, run: actions.back },
    { keys: ['Shift+Backspace'], label: w.bench.keys.backTier, run: actions.backTier },
    { keys: ['s'], label: w.bench.keys.skip, run: actions.skip },
    { keys: ['o'], label: w.bench.keys.skipped, run: () => skipped.show(!skipped.asked) },
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
    if (one !== undefined)
      return (
        <FacetScreen {...{ script, state, reread }} at={one} count={1} habit="facet" {...actions} />
      );
    if (skipped.listed.length > 0)
      return (
        <SkippedScreen
          script={script}
          places={skipped.listed}
          step={state.step}
          pass={skipped.asked ? '' : passName(script, script.visits[state.at - 1]!.pass)}
          onCut={skipped.cut}
          go={skipped.asked ? w.bench.back : w.bench.goOn}
          onGo={skipped.asked ? actions.back : skipped.goOn}
        />
      );
    if (state.gate === 'transfer')
      return <TransferScreen script={script} state={state} log={log} onBack={actions.back} />;
    if (state.gate)
      return <AdapterScreen script={script} state={state} log={log} onBack={actions.back} />;
    if (!visit)
      return (
        <BenchEnd stone={script.stoneId} onBack={actions.back}>
          {state.skipped.length > 0 && (
            <SkippedList script={script} places={state.skipped} onCut={skipped.cut} />
          )}
        </BenchEnd>
      );
    return (
      <FacetScreen
        script={script}
        state={state}
        reread={reread}
        at={state.at}
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
        onSkipped={() => skipped.show(true)}
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
      {noting && (
        <NoteDialog
          add={log.add}
          at={shown === undefined ? undefined : visitOf(script, shown)}
          facet={shown === undefined ? '' : facetName(script, shown)}
          onClose={() => setNoting(false)}
        />
      )}
    </Box>
  );
}
