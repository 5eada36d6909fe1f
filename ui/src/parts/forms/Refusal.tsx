import Typography from '@mui/material/Typography';
import { ApiProblem } from '../../api/client';
import { w } from '../../words/words';
import { Care } from '../Page';

/** Why something was refused, in a sentence. */
export const whyRefused = (error: Error): string =>
  error instanceof ApiProblem ? error.problem.detail : w.common.unreachable;

/** Why the server refused something, place by place. */
export function Refusal({ error }: { error: Error | null }) {
  if (!error) return null;
  const problem = error instanceof ApiProblem ? error.problem : null;
  const places = problem?.places.filter((p) => p.message !== problem.detail) ?? [];
  return (
    <div role="alert">
      <Care grave>
        <Typography>{whyRefused(error)}</Typography>
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
