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
import { MenuButton, type Entry } from '../../parts/MenuButton';
import type { Happening } from '../../log/events';
import { keptWork } from '../../log/works';
import { Await } from '../../parts/Page';
import { useStoneLog, type StoneLog } from '../../parts/work/useStoneLog';
import { isPaused } from '../../log/fold';
import { adapterWords } from '../../words/adapter';
import { earWords } from '../../words/ear';
import { asCutWords } from '../../words/asCut';
import { mendingWords } from '../../words/mending';
import { movedWords } from '../../words/moved';
import { seatWords } from '../../words/seat';
import { slipWords } from '../../words/slips';
import { threadWords } from '../../words/thread';
import { wheelWords as t } from '../../words/wheel';
import { w } from '../../words/words';
import { useKeptOpen } from './reloads';
import { AsCutPanel } from './AsCutPanel';
import { AdapterPanel } from './AdapterPanel';
import { AdapterScreen } from './AdapterScreen';
import { BenchEnd } from './BenchEnd';
import { BenchHead } from './BenchHead';
import { Disagreements } from './Disagreements';
import { FacetScreen } from './FacetScreen';
import { NewPlan } from './NewPlan';
import { NoteDialog } from './NoteDialog';
import { useAsCut } from './otherwise';
import type { Reread } from './reread';
import { doneAt, standingOf, visitOf } from '../../log/standing';
import { Thread } from '../../parts/work/Thread';
import { passName } from '../../parts/work/visitWords';
import { TransferScreen } from './TransferScreen';
import { SkippedList, SkippedScreen } from './SkippedList';
import { AdaptPanel } from './adapt/AdaptPanel';
import { LeanPanel } from './adapt/LeanPanel';
import { SecondSidePanel } from './adapt/SecondSidePanel';
import { chime, say } from './hands/voice';
import { useDials } from './dials/useDials';
import { EarPanel } from './ear/EarPanel';
import { useEar } from './ear/useEar';
import { HandsDialog } from './hands/HandsDialog';
import { useAwake } from './hands/useAwake';
import { keysOf, useHands, type Act } from './hands/useHands';
import { useSplashGuard } from './hands/useSplashGuard';
import { choices, type Choice } from './happened/choices';
import { HappenedScreen } from './happened/HappenedScreen';
import { foretoldAt } from './heights/dial';
import { HeightPanel } from './heights/HeightPanel';
import { LapPanel } from './LapPanel';
import { MendPanel } from './mend/MendPanel';
import { SlipsPanel } from './mend/SlipsPanel';
import { MovedPanel } from './moved/MovedPanel';
import { MeasurePanel } from './MeasurePanel';
import { OrderPanel } from './OrderPanel';
import { PausedScreen } from './PausedScreen';
import { PolishPanel } from './PolishPanel';
import { ReglueScreen } from './ReglueScreen';
import { SeatPanel } from './SeatPanel';
import { TimePanel } from './TimePanel';
import { lapNow, spoken, toldAt } from './told';
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

/** What lies over the facet: the last of them only as long as a facet stands on the screen. */
type Panel =
  | { is: 'happened'; choice?: Choice }
  | {
      is:
        | 'order'
        | 'as cut'
        | 'mend'
        | 'slips'
        | 'moved'
        | 'seat'
        | 'adapter'
        | 'time'
        | 'note'
        | 'catch up'
        | 'hands';
    }
  | { is: OfFacet };

type OfFacet = 'adapt' | 'left' | 'lean' | 'height' | 'measure' | 'polish' | 'lap' | 'ear';

const ofFacet: readonly string[] = [
  'adapt',
  'left',
  'lean',
  'height',
  'measure',
  'polish',
  'lap',
  'ear',
] satisfies OfFacet[];

/** The bench with one stone on it. */
export function Bench({ script, log, path, leaveTo, reread, onBack }: BenchProps) {
  const [habit, setHabit] = useHabit(path, script.tick);
  const [asked, setPanel] = useState<Panel>();
  const [hands, setHands] = useHands();
  const awake = useAwake();
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
  const done = (i: number): Happening => {
    // The dials were read for the facet on the screen, whatever else Done ticks.
    return doneAt(script, state.visited, i, i === shown ? atStop.now() : undefined);
  };
  const leave = () => void navigate(leaveTo);
  const one = ready ? skipped.one : undefined;
  const cutting = ready && visit && !state.gate && skipped.listed.length === 0;
  // The visit that stands on the screen.
  const shown = one ?? (cutting ? state.at : undefined);
  // Another screen may have ended the tier, or turned the stone over.
  const panel = asked && ofFacet.includes(asked.is) && shown === undefined ? undefined : asked;
  const atStop = useDials(script, shown);
  const ear = useEar(script, shown === undefined ? undefined : script.visits[shown]!.pass);
  const asCut = useAsCut(script, state, log, panel ? undefined : shown);
  const shut = () => setPanel(undefined);
  const actions = {
    done: () => {
      if (shown !== undefined && hands.chime) chime();
      if (one !== undefined) log.add([done(one)]);
      else if (cutting) log.add(ticked(script, state, habit).map(done));
    },
    skip: () => {
      if (one !== undefined) skipped.putBack();
      else if (cutting)
        log.add(
          ticked(script, state, 'facet').map((i) => ({
            kind: 'skip',
            payload: visitOf(script, i),
          })),
        );
    },
    back: () => {
      if (one !== undefined) skipped.putBack();
      else if (skipped.asked) skipped.show(false);
      else if (ready) back(false);
    },
    backTier: () => {
      if (ready && one === undefined && !skipped.asked) back(true);
    },
    happened: () => setPanel({ is: 'happened' }),
  };
  const paused = ready && isPaused(log.state);
  const pause = (kind: 'pause' | 'resume') => log.add([{ kind, payload: {} }]);
  const aloud = shown === undefined ? '' : spoken(script, shown);
  useEffect(() => {
    if (hands.speak && !panel && !paused) say(aloud);
  }, [aloud, hands.speak, panel, paused]);
  // What is on the adapter now, or goes onto it next.
  const onAdapter = visit?.adapter ? state.at : -1;
  const last = script.setups.at(-1);
  const onLastSide =
    shown !== undefined && script.visits[shown]!.setup === last?.id && last.up !== '';
  // Beside a facet there is more than fits: each thing has a key and a place in one menu.
  const more: (Entry & { key: string })[] = [
    ...(shown === undefined
      ? []
      : [
          { key: 'a', label: t.keys.adapt, run: () => setPanel({ is: 'adapt' }) },
          ...(onLastSide
            ? [
                { key: 'w', label: t.keys.lean, run: () => setPanel({ is: 'lean' }) },
                { key: 'u', label: t.keys.left, run: () => setPanel({ is: 'left' }) },
              ]
            : []),
          { key: 'h', label: t.keys.height, run: () => setPanel({ is: 'height' }) },
          { key: 'm', label: t.keys.measure, run: () => setPanel({ is: 'measure' }) },
          { key: 'i', label: t.keys.polish, run: () => setPanel({ is: 'polish' }) },
          { key: 'l', label: t.keys.lap, run: () => setPanel({ is: 'lap' }) },
          { key: 'g', label: earWords.title, run: () => setPanel({ is: 'ear' }) },
        ]),
    { key: 'r', label: t.keys.order, run: () => setPanel({ is: 'order' }) },
    { key: 'b', label: asCutWords.title, run: () => setPanel({ is: 'as cut' }) },
    { key: 'y', label: mendingWords.title, run: () => setPanel({ is: 'mend' }) },
    { key: 'j', label: slipWords.title, run: () => setPanel({ is: 'slips' }) },
    ...(visit
      ? [
          { key: 'z', label: movedWords.title, run: () => setPanel({ is: 'moved' }) },
          { key: 'q', label: seatWords.title, run: () => setPanel({ is: 'seat' }) },
        ]
      : []),
    ...(onAdapter < 0
      ? []
      : [{ key: 'x', label: adapterWords.open, run: () => setPanel({ is: 'adapter' }) }]),
    { key: 't', label: t.keys.time, run: () => setPanel({ is: 'time' }) },
    { key: 'n', label: w.bench.note, run: () => setPanel({ is: 'note' }) },
    { key: 'c', label: threadWords.open, run: () => setPanel({ is: 'catch up' }) },
    { key: 'p', label: t.keys.pause, run: () => void pause('pause') },
    { key: 'd', label: t.keys.hands, run: () => setPanel({ is: 'hands' }) },
  ];
  const learned = (act: Act) => ({
    keys: keysOf(hands.pedal, act),
    chosen: hands.pedal[act] ?? [],
  });
  // What stands on the whole screen has keys of its own.
  const atFacet = !panel && !paused;
  useKeys(
    !atFacet
      ? []
      : [
          {
            ...learned('done'),
            label: w.bench.keys.done,
            run: actions.done,
          },
          {
            ...learned('back'),
            label: w.bench.keys.back,
            run: actions.back,
          },
          { keys: ['Shift+Backspace'], label: w.bench.keys.backTier, run: actions.backTier },
          { ...learned('skip'), label: w.bench.keys.skip, run: actions.skip },
          { ...learned('happened'), label: t.keys.happened, run: actions.happened },
          { ...learned('say'), label: t.keys.say, run: () => say(aloud) },
          {
            keys: ['o'],
            label: w.bench.keys.skipped,
            run: () => skipped.show(!skipped.asked),
          },
          ...(ready
            ? choices.map((c) => ({
                keys: [c.key],
                label: t.whats[c.what],
                run: () => setPanel({ is: 'happened', choice: c }),
              }))
            : []),
          ...more.map(({ key, label, run }) => ({ keys: [key], label, run: run! })),
          { keys: ['Escape'], label: w.bench.keys.leave, run: leave },
        ],
  );
  useEffect(() => {
    document.title = `${w.bench.title} · ${script.number} · ${w.name}`;
  }, [script.number]);
  const screen = () => {
    if (!log.known) return null;
    if (changed) return <NewPlan no={log.state.plan} onRead={reread} />;
    if (closed)
      return <BenchEnd script={script} step={state.step} finished late={log.state.late} />;
    if (paused) return <PausedScreen onGo={() => void pause('resume')} />;
    switch (panel?.is) {
      case 'happened':
        return (
          <HappenedScreen
            {...{ script, state, log, shown }}
            first={panel.choice}
            onClose={shut}
            onOrder={() => setPanel({ is: 'order' })}
            onWays={() => setPanel({ is: 'mend' })}
            onLeft={onLastSide ? () => setPanel({ is: 'left' }) : undefined}
          />
        );
      case 'order':
        return <OrderPanel {...{ script, state, log, reread }} onClose={shut} />;
      case 'as cut':
        return <AsCutPanel {...{ script, log }} onClose={shut} />;
      case 'mend':
        return <MendPanel {...{ script, log, reread }} onClose={shut} />;
      case 'slips':
        return (
          <SlipsPanel {...{ script, log }} onClose={shut} onWays={() => setPanel({ is: 'mend' })} />
        );
      case 'moved':
        return (
          <MovedPanel {...{ script, state, log, reread }} setup={state.setup} onClose={shut} />
        );
      case 'seat':
        return <SeatPanel {...{ script, state }} setup={state.setup} onClose={shut} />;
      case 'adapter':
        return <AdapterPanel {...{ script, reread }} at={Math.max(onAdapter, 0)} onClose={shut} />;
      case 'time':
        return <TimePanel {...{ script, state }} onClose={shut} />;
    }
    if (shown !== undefined)
      switch (panel?.is) {
        case 'adapt':
          return <AdaptPanel {...{ script, state, log, shown, reread }} onClose={shut} />;
        case 'left':
          return <SecondSidePanel {...{ script, state, log, reread }} onClose={shut} />;
        case 'lean':
          return <LeanPanel {...{ script, state, log, shown, reread }} onClose={shut} />;
        case 'height':
          return <HeightPanel {...{ script, state, log, shown }} onClose={shut} />;
        case 'measure':
          return <MeasurePanel {...{ script, log, shown, reread }} onClose={shut} />;
        case 'polish':
          return <PolishPanel {...{ script, shown }} onClose={shut} />;
        case 'ear':
          return <EarPanel {...{ script, ear, shown }} onClose={shut} />;
        case 'lap':
          return <LapPanel {...{ script, shown }} onClose={shut} />;
      }
    const facet = (at: number, count: number, habit: Habit) => (
      <FacetScreen
        {...{ script, state, reread, at, count, habit, more, ...actions }}
        told={toldAt(script, state, log.state, at, asCut !== undefined)}
        asCut={asCut}
        lap={lapNow(script, log.state, at)}
        height={foretoldAt(script, log.state, at)}
        atStop={atStop}
        ear={ear}
      />
    );
    if (one !== undefined) return facet(one, 1, 'facet');
    if (state.gate === 'off-dop')
      return (
        <ReglueScreen
          {...{ script, state, log }}
          onBack={actions.back}
          onRead={() => setPanel({ is: 'moved' })}
        />
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
      return (
        <AdapterScreen
          {...{ script, state, log }}
          onBack={actions.back}
          onHelp={onAdapter < 0 ? undefined : () => setPanel({ is: 'adapter' })}
        />
      );
    if (!visit)
      return (
        <BenchEnd script={script} step={state.step} onBack={actions.back}>
          {state.skipped.length > 0 && (
            <SkippedList script={script} places={state.skipped} onCut={skipped.cut} />
          )}
        </BenchEnd>
      );
    return facet(state.at, ticked(script, state, habit).length, habit);
  };
  const guard = useSplashGuard(hands.splash, () => atFacet && actions.back());
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }} {...guard}>
      <BenchHead
        script={script}
        known={log.known}
        state={state}
        path={path}
        habit={habit}
        onHabit={setHabit}
        onSkipped={() => skipped.show(true)}
        onLeave={leave}
        dark={awake === false}
      />
      {ready && <Disagreements script={script} log={log} />}
      <Box sx={{ flexGrow: 1, minHeight: 0 }}>{screen()}</Box>
      {ready && shown === undefined && atFacet && (
        <Box
          sx={{
            display: 'flex',
            gap: 2,
            justifyContent: 'flex-end',
            px: 4,
            py: 2,
            borderTop: 1,
            borderColor: 'divider',
          }}
        >
          <Button onClick={actions.happened} sx={{ minHeight: 64, fontSize: '1.0625rem' }}>
            {t.happened}
          </Button>
          <MenuButton
            label={t.more}
            entries={more}
            sx={{ minHeight: 64, fontSize: '1.0625rem' }}
            row={64}
          />
        </Box>
      )}
      {panel?.is === 'catch up' && (
        <Dialog open onClose={shut} fullWidth maxWidth="lg">
          <DialogTitle>{threadWords.open}</DialogTitle>
          <DialogContent>
            <Thread script={script} log={log} closed={closed} high={72} />
          </DialogContent>
          <DialogActions>
            <Button onClick={shut} sx={{ minHeight: 64 }}>
              {w.common.close}
            </Button>
          </DialogActions>
        </Dialog>
      )}
      {panel?.is === 'note' && (
        <NoteDialog
          add={log.add}
          at={shown === undefined ? undefined : visitOf(script, shown)}
          facet={shown === undefined ? '' : facetName(script, shown)}
          onClose={shut}
        />
      )}
      {panel?.is === 'hands' && (
        <HandsDialog hands={hands} onChange={setHands} awake={awake} onClose={shut} />
      )}
    </Box>
  );
}
