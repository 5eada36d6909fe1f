import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Draft, SequenceReport } from '../../api/client';
import { sequenceQuery } from '../../api/solving';
import { Await, Care } from '../../parts/Page';
import { endedWords, orderWords } from '../../words/order';
import { w } from '../../words/words';
import { useSolved } from '../../parts/stone/useSolved';
import { TierSteps, type TierMark } from './TierSteps';

const o = orderWords;

interface Props {
  draft: Draft;
  onClose: () => void;
  /** Does something with the better order; `take` says what. */
  onTake: (draft: Draft) => void;
  take: string;
}

/** Whether a diagram can be cut in its order, and a better one beside it, tier by tier. */
export function OrderDialog({ draft, onClose, onTake, take }: Props) {
  const report = useQuery(sequenceQuery(draft));
  const better = report.data?.better;
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{o.title}</DialogTitle>
      <DialogContent tabIndex={0}>
        <Await query={report}>{(r) => <Judged draft={draft} report={r} />}</Await>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.close}</Button>
        {better?.changed && (
          <Button variant="contained" onClick={() => onTake(better.draft)}>
            {take}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function Judged({ draft, report }: { draft: Draft; report: SequenceReport }) {
  const better = report.better ?? undefined;
  const changed = better?.changed ?? false;
  const now = useSolved(draft).solved?.stone ?? undefined;
  const then = useSolved(better?.draft ?? draft).solved?.stone ?? undefined;
  const marks: TierMark[] = draft.tiers.map((_, i) => ({
    wrong: report.problems.find((p) => p.tier === i)?.message,
    free: report.free.includes(i),
  }));
  return (
    <>
      <Typography sx={{ fontWeight: 600 }}>{verdict(report)}</Typography>
      {report.ended !== 'complete' && <Care>{endedWords[report.ended]}</Care>}
      {report.problems
        .filter((p) => p.tier < 0)
        .map((p) => (
          <Care key={p.code} grave>
            {p.message}
          </Care>
        ))}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: changed ? '1fr 1fr' : '1fr' },
          gap: 5,
          mt: 3,
        }}
      >
        <TierSteps title={o.written} draft={draft} stone={now} marks={marks} />
        {better && changed && (
          <TierSteps
            title={o.better}
            draft={better.draft}
            stone={then}
            marks={better.draft.tiers.map((_, i) => ({
              free: better.free.includes(i),
              moved: better.moved.includes(i),
              restopped: better.restopped.includes(i),
            }))}
          />
        )}
      </Box>
      {report.optional.length > 0 && (
        <Box component="section" aria-label={o.optional} sx={{ mt: 4 }}>
          <Typography variant="h3">{o.optional}</Typography>
          {report.optional.map((t) => {
            const name = draft.tiers[t.tier]!.name;
            return t.cuts ? (
              <Typography key={name}>{o.canGo(name)}</Typography>
            ) : (
              <Care key={name}>{o.mustStay(name, t.why)}</Care>
            );
          })}
        </Box>
      )}
    </>
  );
}

function verdict(r: SequenceReport): string {
  if (!r.cuttable) return r.better ? o.uncuttable : `${o.uncuttable} ${o.none}`;
  if (!r.better?.changed) return r.ended === 'complete' ? o.cuttable : o.cuttableSoFar;
  return r.problems.length > 0 ? o.cuttableTwice : o.cuttableBetter;
}
