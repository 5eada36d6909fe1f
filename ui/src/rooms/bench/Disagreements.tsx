import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { BenchScript } from '../../api/client';
import { disagreements, type Disagreement } from '../../log/disagree';
import type { Happening, LogEvent } from '../../log/events';
import { visitKey } from '../../log/fold';
import { visitOf } from '../../log/standing';
import { Care } from '../../parts/Page';
import { passName } from '../../parts/work/visitWords';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { diskWords as d } from '../../words/disk';
import { facetName } from './work';

interface Props {
  script: BenchScript;
  log: StoneLog;
}

/** Says where screens disagree on what was cut, and lets whoever has the stone in hand say what is so. */
export function Disagreements({ script, log }: Props) {
  const all = disagreements(log.state).flatMap((one) => {
    const at = script.visits.findIndex((_, i) => visitKey(visitOf(script, i)) === one.visit);
    return at < 0 ? [] : [{ ...one, at }];
  });
  return all.map((one) => (
    <Care key={one.visit} grave>
      {d.disagree(
        `${facetName(script, one.at)}, ${passName(script, script.visits[one.at]!.pass)}`,
        who(one.cut.at(-1)!),
        who(one.left),
      )}{' '}
      <Box component="span" sx={{ display: 'inline-flex', gap: 2 }}>
        <Button sx={{ minHeight: 48 }} onClick={() => log.add([confirmed(script, one.at)])}>
          {d.wasCut}
        </Button>
        <Button sx={{ minHeight: 48 }} onClick={() => leaveOut(log, one)}>
          {d.wasLeft}
        </Button>
      </Box>
    </Care>
  ));
}

/** Whoever says so knows that it was said to be left out. */
const confirmed = (script: BenchScript, at: number): Happening => ({
  kind: 'done',
  payload: { ...visitOf(script, at), left: true },
});

const who = (e: LogEvent): string => e.by || d.someone;

/** Takes back what each screen says of its being cut. */
function leaveOut(log: StoneLog, { cut }: Disagreement) {
  const last = new Map(cut.map((e) => [e.device, e.id]));
  log.add([...last.values()].map((undoes) => ({ kind: 'undo', payload: { undoes } })));
}
