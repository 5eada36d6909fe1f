import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import type { StoneLog } from '../../parts/work/useStoneLog';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
}

/** What is checked before the next visit. A check is taken back by unticking it. */
export function GateChecks({ script, state, log }: Props) {
  const setup = script.visits[state.at]?.setup;
  if (setup === undefined) return null;
  const check = (item: string) => {
    const made = log.state.checks.get(`${setup}/${item}`)?.events.at(-1);
    log.add([
      made
        ? { kind: 'undo', payload: { undoes: made.id } }
        : { kind: 'check', payload: { setup, item } },
    ]);
  };
  return (
    <>
      {script.checks
        .filter((c) => c.gate === state.gate)
        .map((c) => (
          <FormControlLabel
            key={c.item}
            sx={{ display: 'flex', alignItems: 'flex-start', minHeight: 64, py: 1 }}
            control={
              <Checkbox checked={state.checked.has(c.item)} onChange={() => check(c.item)} />
            }
            label={c.text}
          />
        ))}
    </>
  );
}
