import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { StoneLine } from '../../api/client';
import { rereadStones } from '../../api/stones';
import { NumberField } from '../../parts/fields/NumberField';
import { useNotice } from '../../parts/notice';
import { useNow } from '../../parts/clock/useNow';
import { DiskState } from '../../parts/work/DiskState';
import { useStoneLog } from '../../parts/work/useStoneLog';
import { gluingWords, whenCured } from '../../words/gluing';

const k = gluingWords.glued;

/** The longest that a bond is told to cure, in minutes. */
const aWeek = 7 * 24 * 60;

interface Props {
  stone: StoneLine;
  setup: string;
  dop: string;
  adhesive: string;
  /** How long the adhesive cures, 0 where nobody knows. */
  minutes: number;
  /** Dop and adhesive are those of the plan. */
  inPlan: boolean;
}

/** The dop-up on record: what the stone sits on since when, and until when it cures. */
export function GluedNow({ stone, setup, dop, adhesive, minutes, inPlan }: Props) {
  const log = useStoneLog(stone.workId);
  const last = log.state.dops.findLast((d) => d.setup === setup);
  const [anew, setAnew] = useState(false);
  const [axis, setAxis] = useState('');
  const [time, setTime] = useState(minutes);
  const now = useNow(last !== undefined);
  const queries = useQueryClient();
  const say = useNotice();
  if (!log.known || stone.state === 'finished') return null;
  const record = () => {
    const payload = { setup, dop, adhesive, minutes: time, ...(axis && { axis: axis.trim() }) };
    log.add([{ kind: 'dopped', payload }]);
    setAnew(false);
    say({ text: k.recorded(whenCured(new Date(Date.now() + time * 60_000).toISOString())) });
    void rereadStones(queries);
  };
  const at = last && whenCured(new Date(last.cured).toISOString());
  return (
    <Box component="section" aria-label={k.head} sx={{ mb: 4 }}>
      <Typography variant="h3" gutterBottom>
        {k.head}
      </Typography>
      {last && (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
          <Typography role="status">
            {(last.cured > now ? k.curing : k.cured)(
              [last.dop, last.adhesive].filter(Boolean).join(', '),
              at!,
            )}
            {last.axis && ` ${last.axis}.`}
          </Typography>
          <DiskState />
          {!anew && <Button onClick={() => setAnew(true)}>{k.again}</Button>}
          <Button
            onClick={() => log.add([{ kind: 'undo', payload: { undoes: last.events.at(-1)!.id } }])}
          >
            {k.undo}
          </Button>
        </Box>
      )}
      {(!last || anew) && (
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-start', flexWrap: 'wrap' }}>
          <TextField
            label={k.axis}
            placeholder={k.axisPlaceholder}
            value={axis}
            onChange={(e) => setAxis(e.target.value.slice(0, 200))}
            sx={{ flex: '1 1 280px' }}
          />
          <NumberField
            label={k.minutes}
            unit={k.min}
            min={0}
            max={aWeek}
            value={time}
            onChange={setTime}
            width={130}
          />
          <Button
            variant={inPlan ? 'contained' : 'outlined'}
            onClick={record}
            sx={{ minHeight: 44 }}
          >
            {k.record}
          </Button>
        </Box>
      )}
    </Box>
  );
}
