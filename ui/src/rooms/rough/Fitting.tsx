import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { reread } from '../../api/refresh';
import { fittingOf, roughKey, type FittingLine } from '../../api/rough';
import { ProgressLine } from '../../parts/ProgressLine';
import { useLongWork } from '../../parts/useLongWork';
import { roughWords } from '../../words/rough';

const r = roughWords.fit;

interface Search {
  now: FittingLine;
  kept: number;
}

const after = (before: Search | undefined, line: FittingLine): Search => ({
  now: line,
  kept: (before?.kept ?? 0) + (line.kept ? 1 : 0),
});

export type Fitting = ReturnType<typeof useFitting>;

/** The search for stones in a piece. What is kept on the way is shown on the way. */
export function useFitting(piece: string) {
  const work = useLongWork(fittingOf(piece), after);
  const queries = useQueryClient();
  const kept = work.state?.kept ?? 0;
  useEffect(() => {
    if (kept > 0) void reread(queries, roughKey);
  }, [kept, queries]);
  return work;
}

interface Props {
  work: Pick<Fitting, 'running' | 'stop'>;
  /** What begins it. */
  label: string;
  disabled?: boolean;
  onStart: () => void;
}

/** Begins a search or stops it. */
export function FittingButton({ work, label, disabled, onStart }: Props) {
  if (work.running) return <Button onClick={work.stop}>{r.stop}</Button>;
  return (
    <Button variant="contained" disabled={disabled} onClick={onStart}>
      {label}
    </Button>
  );
}

/** How far a search has come, and how it ended. */
export function FittingState({ work }: { work: Fitting }) {
  const { state: search } = work;
  return (
    <Box sx={{ flexGrow: 1, minWidth: 200 }}>
      {work.running && search && (
        <ProgressLine
          done={search.now.done}
          total={search.now.total}
          text={r.trying(search.now.name, search.now.width)}
        />
      )}
      {work.ran && work.ended && (
        <Typography role="status" color="text.secondary">
          {search?.now.failed ||
            {
              complete: r.done(search?.kept ?? 0),
              stopped: r.stopped,
              failed: r.failed,
            }[work.ended]}
        </Typography>
      )}
    </Box>
  );
}
