import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { movedWords } from '../../words/moved';
import { angle } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';
import { GateActions, GateChecks } from './GateChecks';
import { GlueNow } from './GlueNow';
import { linesUp } from './linesUp';
import { MarkedStone } from './MarkedStone';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  onBack: () => void;
  /** Reads how it sits. */
  onRead: () => void;
}

/** The stone came off its dop: found, cleaned, glued again, and its turn found from what is cut. */
export function ReglueScreen({ script, state, log, onBack, onRead }: Props) {
  const { setup } = state;
  const off = log.state.happenings.findLast((h) => h.what === 'bond-failed')!;
  const facets = linesUp(script, state, setup);
  return (
    <Box
      sx={{
        height: '100%',
        overflow: 'auto',
        display: 'grid',
        gridTemplateColumns: '1fr 1fr',
        gap: 4,
        p: 4,
      }}
    >
      <Box>
        <Typography variant="h1" component="h2">
          {t.offDop}
        </Typography>
        <Typography sx={{ mb: 2, fontSize: '1.125rem' }}>{t.offDopLead}</Typography>
        <Box sx={{ height: '38vh' }}>
          <MarkedStone
            {...{ script, facets }}
            step={state.step}
            setup={script.setups.findIndex((s) => s.id === setup)}
            label={t.lineUp}
          />
        </Box>
        <Typography variant="h2" sx={{ mt: 3 }}>
          {t.lineUp}
        </Typography>
        {facets.length === 0 && <Typography>{t.nothingToLineUp}</Typography>}
        {facets.map((f) => (
          <Typography key={f.id} sx={{ fontSize: '1.375rem' }}>
            {t.lineUpOne(f.tier, String(f.dial.tooth), angle(f.reading))}
          </Typography>
        ))}
        {facets.length > 0 && (
          <>
            <Typography color="text.secondary" sx={{ mt: 1 }}>
              {t.moved}
            </Typography>
            <Button variant="outlined" onClick={onRead} sx={{ minHeight: 64, mt: 2 }}>
              {movedWords.title}
            </Button>
          </>
        )}
      </Box>
      <Box>
        <GateChecks script={script} state={state} log={log} />
        <GlueNow {...{ script, log, setup }} since={off.n} />
        <GateActions
          go={t.linedUp}
          onGo={() => log.add([{ kind: 'check', payload: { setup, item: 'lined-up' } }])}
          onBack={onBack}
        />
        <Typography color="text.secondary" sx={{ mt: 2 }}>
          {script.cautions.join(' ')}
        </Typography>
      </Box>
    </Box>
  );
}
