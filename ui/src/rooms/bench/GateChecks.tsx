import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { Clock } from '../../parts/clock/Clock';
import { Care } from '../../parts/Page';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { clockWords } from '../../words/clock';
import { wheelWords } from '../../words/wheel';
import { w } from '../../words/words';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
}

/** What is checked before the next visit. A check is taken back by unticking it. */
export function GateChecks({ script, state, log }: Props) {
  const { setup } = state;
  // A script that an older build has kept does not say where from.
  const here = (c: BenchScript['checks'][number]) =>
    c.gate === state.gate && (!c.setup || c.setup === setup) && (!c.from || c.from === state.sits);
  const check = (item: string) => {
    const made = log.state.checks.get(`${setup}/${item}`)?.events.at(-1);
    log.add([
      made && state.checked.has(item)
        ? { kind: 'undo', payload: { undoes: made.id } }
        : { kind: 'check', payload: { setup, item } },
    ]);
  };
  return (
    <>
      {script.checks.filter(here).map((c, i) => (
        <Box key={c.item} sx={{ borderTop: i > 0 ? 1 : 0, borderColor: 'divider', py: 0.5 }}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
            <FormControlLabel
              sx={{ flexGrow: 1, alignItems: 'flex-start', minHeight: 64, py: 1 }}
              control={
                <Checkbox checked={state.checked.has(c.item)} onChange={() => check(c.item)} />
              }
              label={c.text}
            />
            {c.minutes > 0 && (
              <Clock
                of={`gate/${script.workId}/${setup}/${c.item}`}
                what={wheelWords.clockOf(script.number)}
                minutes={c.minutes}
                label={clockWords.step(i + 1)}
              />
            )}
          </Box>
          {c.caution && <Care>{c.caution}</Care>}
        </Box>
      ))}
    </>
  );
}

/** The way back, and the way on when all is as it should be: never by the key for Done. */
export function GateActions({
  go,
  onGo,
  onBack,
}: {
  go: string;
  onGo: () => void;
  onBack: () => void;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 2, mt: 3 }}>
      <Button onClick={onBack} sx={{ minHeight: 64 }}>
        {w.bench.back}
      </Button>
      <Button
        variant="contained"
        color="primary"
        sx={{ minHeight: 64, flexGrow: 1, fontSize: '1.25rem' }}
        onClick={onGo}
      >
        {go}
      </Button>
    </Box>
  );
}
