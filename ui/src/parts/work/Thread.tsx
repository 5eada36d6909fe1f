import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { BenchScript } from '../../api/client';
import { shareIn, useDrag } from '../gestures/useDrag';
import { useNotice } from '../notice';
import { useStoneLog, type StoneLog } from './useStoneLog';
import { duration } from '../../words/numbers';
import { threadWords as t } from '../../words/thread';
import { w } from '../../words/words';
import { standingOf, doneAt } from '../../log/standing';
import { passName } from './visitWords';

/** Width of the ribbon in its own units, and of the break where the stone is turned over. */
const wide = 1000;
const gap = 14;

interface Props {
  script: BenchScript;
  log: StoneLog;
  /** A finished stone's thread is only looked at. */
  closed: boolean;
  /** Height of the ribbon in px: at the wheel it is for a wet finger. */
  high?: number;
}

/** The thread of a stone away from the wheel, with a log of its own. */
export function StoneThread(props: Pick<Props, 'script' | 'closed'>) {
  const log = useStoneLog(props.script.workId);
  // Until the log was read nobody knows what is cut.
  if (!log.known) return <LinearProgress aria-label={w.common.loading} sx={{ my: 6 }} />;
  return <Thread script={props.script} closed={props.closed} log={log} />;
}

/** A stone as one ribbon of its cuts. What was cut away from the screen is ticked by dragging. */
export function Thread({ script, log, closed, high = 34 }: Props) {
  const { tokens } = useTheme();
  const state = standingOf(script, log.state);
  const say = useNotice();
  const [to, setTo] = useState<number | null>(null);
  const spans = spansOf(script);
  const sideEnd = lastBeforeGate(script, state.at);
  const name = (i: number) => {
    const v = script.visits[i]!;
    const f = script.facets[v.facet]!;
    return `${f.tier} ${f.dial.tooth} · ${passName(script, v.pass)}`;
  };
  // What is chosen runs from the next cut on, and never over the transfer or the adapter.
  const bounded = (i: number) => Math.min(Math.max(i, state.at), sideEnd);
  const open = !closed && log.known && state.at < script.visits.length && !state.gate;
  const chosen = to === null ? [] : stillOpen(state.visited, state.at, to);
  const reach = (e: PointerEvent<Element>) => {
    const x = shareIn(e.currentTarget, e)[0] * wide;
    const found = spans.findIndex((s) => x < s.x + s.width);
    const i = found < 0 ? script.visits.length - 1 : found;
    setTo(i < state.at ? null : bounded(i));
  };
  const drag = useDrag({
    begin: (e) => {
      if (open) reach(e);
      return open;
    },
    move: (_x, _y, e) => reach(e),
  });
  const key = (e: KeyboardEvent) => {
    const by: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 };
    if (!open) return;
    if (by[e.key]) {
      const next = (to ?? state.at - 1) + by[e.key]!;
      setTo(next < state.at ? null : bounded(next));
    } else if (e.key === 'End') setTo(sideEnd);
    else if (e.key === 'Home' || e.key === 'Escape') setTo(null);
    else if (e.key === 'Enter' && chosen.length > 0) tick();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const tick = () => {
    const made = log.add(chosen.map((i) => doneAt(script, state.visited, i)));
    say({
      text: t.ticked(chosen.length),
      action: {
        label: w.common.undo,
        run: () => log.add(made.map((e) => ({ kind: 'undo', payload: { undoes: e.id } }))),
      },
    });
    setTo(null);
  };
  const minutesLeft = script.visits.reduce(
    (sum, v, i) => (state.visited[i] ? sum : sum + v.minutes),
    0,
  );
  const fill = (i: number): string => {
    if (chosen.includes(i)) return tokens.emberWash;
    const e = state.visited[i];
    if (!e) return 'transparent';
    return e.kind === 'skip' ? tokens.hairline : tokens.copper;
  };
  return (
    <Box component="section" aria-label={t.head} sx={{ my: 4 }}>
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', alignItems: 'baseline' }}>
        <Typography variant="h3">{t.head}</Typography>
        <Typography color="text.secondary" sx={{ flexGrow: 1 }}>
          {t.lead}
        </Typography>
        {minutesLeft > 0 && !closed && (
          <Typography variant="figures">{t.left(duration(minutesLeft))}</Typography>
        )}
      </Box>
      <svg
        viewBox={`0 0 ${wide} ${high}`}
        preserveAspectRatio="none"
        width="100%"
        height={high}
        role="slider"
        tabIndex={open ? 0 : -1}
        aria-label={t.slider}
        aria-valuemin={0}
        aria-valuemax={script.visits.length}
        aria-valuenow={to === null ? state.at : to + 1}
        aria-valuetext={
          to === null
            ? w.bench.progress(state.at, script.visits.length)
            : t.ask(chosen.length, name(to))
        }
        aria-disabled={!open}
        style={{ touchAction: 'none', cursor: open ? 'ew-resize' : 'default', display: 'block' }}
        {...drag}
        onKeyDown={key}
      >
        {spans.map((s, i) => (
          <rect
            key={i}
            data-visit={state.visited[i] ? 'done' : 'open'}
            x={s.x}
            y={s.first ? 2 : 6}
            width={s.width}
            height={s.first ? high - 4 : high - 12}
            fill={fill(i)}
            stroke={i === state.at && open ? tokens.ember : tokens.faint}
            strokeWidth={i === state.at && open ? 2 : 0.6}
            vectorEffect="non-scaling-stroke"
          >
            <title>{name(i)}</title>
          </rect>
        ))}
      </svg>
      {chosen.length > 0 && to !== null ? (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 2 }}>
          <Typography sx={{ flexGrow: 1 }}>{t.ask(chosen.length, name(to))}</Typography>
          <Button onClick={() => setTo(null)}>{t.leave}</Button>
          <Button variant="contained" onClick={tick}>
            {t.tick(chosen.length)}
          </Button>
        </Box>
      ) : (
        !closed && (
          <Typography color="text.secondary" variant="body2" sx={{ mt: 1 }}>
            {state.gate ? t.gateFirst[state.gate] : t.catchUp}
          </Typography>
        )
      )}
    </Box>
  );
}

/** Where each visit lies on the ribbon; the first of a tier stands out, a turned stone breaks it. */
function spansOf(script: BenchScript): { x: number; width: number; first: boolean }[] {
  const breaks = script.visits.filter((v, i) => i > 0 && v.setup !== script.visits[i - 1]!.setup);
  const minutes = script.visits.reduce((sum, v) => sum + v.minutes, 0);
  const scale = (wide - breaks.length * gap) / Math.max(minutes, 1e-9);
  let x = 0;
  return script.visits.map((v, i) => {
    const before = script.visits[i - 1];
    if (before && before.setup !== v.setup) x += gap;
    const tier = (o: typeof v) => script.facets[o.facet]!.tier + o.pass + o.setup;
    const span = { x, width: v.minutes * scale, first: !before || tier(before) !== tier(v) };
    x += span.width;
    return span;
  });
}

/** The last visit before the stone is turned over, or goes onto the adapter or off it. */
function lastBeforeGate(script: BenchScript, at: number): number {
  const from = script.visits[at];
  const alike = (i: number) => {
    const v = script.visits[i];
    return v && v.setup === from?.setup && v.adapter === from.adapter;
  };
  let last = at;
  while (alike(last + 1)) last++;
  return last;
}

/** The visits from one place to another that are still open. */
function stillOpen(visited: readonly unknown[], from: number, to: number): number[] {
  return visited.flatMap((e, i) => (i >= from && i <= to && !e ? [i] : []));
}
