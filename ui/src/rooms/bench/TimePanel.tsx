import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { useNow } from '../../parts/clock/useNow';
import { Sheet } from '../../parts/Sheet';
import { passName } from '../../parts/work/visitWords';
import { duration, timeOfDay } from '../../words/numbers';
import { lapWords } from '../../words/laps';
import { wheelWords as t } from '../../words/wheel';
import { w } from '../../words/words';
import { Panel } from './Panel';
import { fitting, leftOf, nextTime } from './time';
import { facetName } from './work';
import { upName } from '../../parts/stone/setups';

interface Props {
  script: BenchScript;
  state: BenchState;
  onClose: () => void;
}

/** What is left, step by step, and what of it fits before the hour that somebody names. */
export function TimePanel({ script, state, onClose }: Props) {
  const now = useNow(true);
  const [until, setUntil] = useState('');
  const steps = leftOf(script, state);
  const all = steps.reduce((sum, s) => sum + s.minutes, 0);
  const at = (minutes: number) => timeOfDay(new Date(now + minutes * 60_000).toISOString());
  const hour = nextTime(until, now);
  const fits = hour === undefined ? undefined : fitting(script, state, (hour - now) / 60_000);
  return (
    <Panel title={t.time} lead={t.timeLead} onClose={onClose}>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', gap: 6 }}>
        <Box>
          <Typography sx={{ fontSize: '2.5rem', fontWeight: 600 }}>{duration(all)}</Typography>
          <Typography sx={{ mb: 3 }}>{t.doneAt(at(all))}</Typography>
          <TextField
            label={t.until}
            type="time"
            value={until}
            onChange={(e) => setUntil(e.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
            sx={{ width: 200 }}
          />
          {fits && (
            <Typography role="status" sx={{ fontSize: '1.5rem', mt: 2 }}>
              {fits.cuts === 0
                ? t.fitsNone
                : fits.all
                  ? t.fitsAll(at(all))
                  : t.fits(
                      fits.cuts,
                      `${facetName(script, fits.last)}, ${passName(script, script.visits[fits.last]!.pass)}`,
                    )}
            </Typography>
          )}
        </Box>
        <Sheet head={[lapWords.pass, w.stones.progress, t.time]}>
          {steps.map((s) => (
            <tr key={`${s.setup} ${s.pass}`}>
              <td>
                {upName(script.setups.find((x) => x.id === s.setup)!)} · {passName(script, s.pass)}
              </td>
              <td className="figure">{s.cuts}</td>
              <td className="figure">{duration(s.minutes)}</td>
            </tr>
          ))}
        </Sheet>
      </Box>
    </Panel>
  );
}
