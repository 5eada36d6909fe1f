import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { judgeRoundness } from '../../api/gluing';
import { reads, taking } from '../../parts/instruments/ReadingOffer';
import { Refusal } from '../../parts/forms/Refusal';
import { gluingWords } from '../../words/gluing';
import { angle, mm, parseNumber } from '../../words/numbers';

const k = gluingWords.preform.roll;

/** Reads figures with spaces between; a part that is none is told. */
export function readingsOf(text: string): { readings: number[]; bad?: string } {
  const parts = text.trim().split(/\s+/).filter(Boolean);
  const readings = parts.map(parseNumber);
  const bad = parts.find((_, i) => !(readings[i]! > 0 && readings[i]! <= 500));
  return { readings: readings.filter((v) => v !== undefined), bad };
}

/** Whether a preform is round, by a few readings of the calipers, and what is still to come off. */
export function Rolling({ wanted }: { wanted: number }) {
  const [text, setText] = useState('');
  const { readings, bad } = readingsOf(text);
  const enough = readings.length > 1 && bad === undefined;
  const judged = useQuery({
    queryKey: ['roundness', readings, wanted],
    queryFn: () => judgeRoundness({ readings: readings.slice(0, 24), wanted }),
    enabled: enough,
    placeholderData: keepPreviousData,
  });
  const r = enough ? judged.data : undefined;
  const help = bad !== undefined ? k.bad(bad) : readings.length === 1 ? k.few : k.help;
  return (
    <Box component="section" aria-label={k.head} sx={{ maxWidth: 560 }}>
      <Typography variant="h3" sx={{ mb: 2 }}>
        {k.head}
      </Typography>
      <TextField
        fullWidth
        label={k.readings}
        value={text}
        error={bad !== undefined}
        helperText={help}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={taking(reads.calipers, (v) => setText(`${text.trimEnd()} ${v}`.trimStart()))}
      />
      <Refusal error={judged.error} />
      {r && (
        <Typography role="status" sx={{ mt: 2 }}>
          {r.out > 0.005 && `${k.result(mm(r.out), angle(Math.round(r.high)))} `}
          <strong>
            {r.least < wanted - 0.005
              ? k.small(mm(wanted - r.least))
              : r.grind > 0.005
                ? k.grind(mm(r.grind))
                : k.reached}
          </strong>
        </Typography>
      )}
    </Box>
  );
}
