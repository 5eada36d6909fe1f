import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { answer, client, type Draft, type SequenceReport } from '../../api/client';
import { Await, Care } from '../../parts/Page';
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { useSolved } from '../diagrams/useSolved';
import { TierSteps, type TierMark } from './TierSteps';

const o = judgingWords.order;

interface Props {
  draft: Draft;
  onClose: () => void;
  /** Does something with the better order; `take` says what. */
  onTake: (draft: Draft) => void;
  take: string;
}

/** Whether a diagram can be cut in its order, and a better one beside it, tier by tier. */
export function OrderDialog({ draft, onClose, onTake, take }: Props) {
  const report = useQuery({
    queryKey: ['sequence', draft],
    queryFn: ({ signal }) => answer(client.POST('/api/sequence', { body: { draft }, signal })),
    retry: false,
    gcTime: 10_000,
  });
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
      {report.ended !== 'complete' && <Care>{judgingWords.ended[report.ended]}</Care>}
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
            marks={differences(draft, better.draft, better.free)}
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

/** What is different about each tier of the better order. */
function differences(was: Draft, is: Draft, free: number[]): TierMark[] {
  const order = is.tiers.map((t) => was.tiers.findIndex((o) => o.key === t.key));
  const stay = risingMost(order);
  return is.tiers.map((t, i) => ({
    free: free.includes(i),
    moved: !stay.has(i),
    restopped: t.stop !== was.tiers[order[i]!]!.stop,
  }));
}

/** The places of a longest rising run: the fewest of the others are what was moved. */
function risingMost(list: number[]): Set<number> {
  const runs: { from: number; length: number }[] = [];
  list.forEach((v, i) => {
    let run = { from: -1, length: 1 };
    for (let k = 0; k < i; k++) {
      if (list[k]! < v && runs[k]!.length >= run.length)
        run = { from: k, length: runs[k]!.length + 1 };
    }
    runs.push(run);
  });
  const out = new Set<number>();
  const longest = Math.max(0, ...runs.map((r) => r.length));
  for (let at = runs.findIndex((r) => r.length === longest); at >= 0; at = runs[at]!.from)
    out.add(at);
  return out;
}
