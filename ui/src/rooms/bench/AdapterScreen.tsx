import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { Profile } from '../../parts/stone/Profile';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { passName } from '../../parts/work/visitWords';
import { adapterWords } from '../../words/adapter';
import { w } from '../../words/words';
import { GateActions, GateChecks } from './GateChecks';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  onBack: () => void;
  /** Leads to what helps with the adapter. */
  onHelp: (() => void) | undefined;
}

/** The stone goes onto the table adapter, or comes off it. */
export function AdapterScreen({ script, state, log, onBack, onHelp }: Props) {
  const on = state.gate === 'adapter-on';
  const visit = script.visits[on ? state.at : state.at - 1] ?? script.visits[state.at]!;
  const laps = script.visits.filter((v) => v.adapter && v.setup === visit.setup);
  const passes = [...new Set(laps.map((v) => passName(script, v.pass)))];
  return (
    <Box
      sx={{
        height: '100%',
        overflow: 'auto',
        display: 'grid',
        gridTemplateColumns: 'repeat(2, minmax(0, 1fr))',
        gap: 4,
        p: 4,
      }}
    >
      <Box sx={{ minHeight: 0 }}>
        <Profile mesh={script.mesh} step={Math.max(state.step, visit.now)} levels={script.levels} />
      </Box>
      <Box>
        <Typography variant="h1" component="h2" gutterBottom>
          {on ? w.bench.adapterOn : w.bench.adapterOff}
        </Typography>
        <Typography sx={{ mb: 3, fontSize: '1.25rem' }}>
          {on ? w.bench.adapterOnLead(passes.join(', ')) : w.bench.adapterOffLead}
        </Typography>
        <GateChecks script={script} state={state} log={log} />
        {onHelp && (
          <Button onClick={onHelp} sx={{ minHeight: 64, mt: 2 }}>
            {adapterWords.help}
          </Button>
        )}
        <GateActions
          go={on ? w.bench.adapterOnGo : w.bench.adapterOffGo}
          onGo={() =>
            log.add([{ kind: 'check', payload: { setup: visit.setup, item: state.gate } }])
          }
          onBack={onBack}
        />
      </Box>
    </Box>
  );
}
