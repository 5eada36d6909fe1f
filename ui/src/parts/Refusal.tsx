import Typography from '@mui/material/Typography';
import { ApiProblem } from '../api/client';
import { w } from '../words/words';
import { Care } from './Page';

/** Why the server refused something, place by place. A stale write has its own dialog. */
export function Refusal({ error }: { error: Error | null }) {
  if (!error || (error instanceof ApiProblem && error.stale)) return null;
  const problem = error instanceof ApiProblem ? error.problem : null;
  const places = problem?.places.filter((p) => p.message !== problem.detail) ?? [];
  return (
    <div role="alert">
      <Care grave>
        <Typography>{problem?.detail ?? w.common.unreachable}</Typography>
        {places.map((p, i) => (
          <Typography key={i}>
            {p.line > 0 && `${w.diagrams.inFile(p.line, p.column, p.tierName)}: `}
            {p.message}
          </Typography>
        ))}
      </Care>
    </div>
  );
}
