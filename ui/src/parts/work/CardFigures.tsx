import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Finish } from '../../api/client';
import { Figures } from '../Page';
import {
  bothWeights,
  carats,
  dayOf,
  hours as asHours,
  money,
  percent,
  sizes,
} from '../../words/numbers';
import { cardWords } from '../../words/card';
import { w } from '../../words/words';

/** A finished stone's card: weight, size, yield, dates, hours, notes. */
export function CardFigures({
  finish: f,
  hours,
  planned,
}: {
  finish: Finish;
  hours: number;
  planned: number;
}) {
  const l = w.logbook;
  return (
    <Box component="section" aria-label={l.cardTitle} sx={{ maxWidth: 420, mb: 4 }}>
      <Typography variant="h2" gutterBottom>
        {l.cardTitle}
      </Typography>
      <Figures
        rows={[
          [l.finished, dayOf(f.finished)],
          [l.rough, f.roughCarats > 0 ? bothWeights(f.roughCarats) : '–'],
          [
            l.weight,
            f.finishedCarats > 0
              ? `${bothWeights(f.finishedCarats)} (${l.planned(carats(planned))})`
              : '–',
          ],
          [l.yield, yieldOf(f)],
          [l.size, sizes(f.widthMM, f.lengthMM, f.heightMM)],
          [l.hours, asHours(hours)],
          ...(f.price > 0
            ? [[cardWords.price, money(f.price, f.currency)] as [string, string]]
            : []),
        ]}
      />
      {f.notes && <Typography sx={{ mt: 2, whiteSpace: 'pre-wrap' }}>{f.notes}</Typography>}
    </Box>
  );
}

/** Finished over rough weight, a dash where one is missing. */
export function yieldOf(f: Pick<Finish, 'roughCarats' | 'finishedCarats'>): string {
  return f.roughCarats > 0 && f.finishedCarats > 0
    ? percent(f.finishedCarats / f.roughCarats)
    : '–';
}
