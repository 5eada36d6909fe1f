import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import type { BenchState } from '../../log/standing';
import { passName } from '../../parts/work/visitWords';
import { wheelWords as t } from '../../words/wheel';
import { facetName } from './work';

interface Props {
  script: BenchScript;
  /** Places of the visits among which is chosen. */
  places: readonly number[];
  at: number;
  onChange: (place: number) => void;
}

/** Which facet is meant: one of those that were cut, or the one that is being cut. */
export function FacetPick({ script, places, at, onChange }: Props) {
  const i = places.indexOf(at);
  const step = (by: number, sign: string, name: string) => (
    <Button
      variant="outlined"
      aria-label={name}
      disabled={places[i + by] === undefined}
      onClick={() => onChange(places[i + by]!)}
      sx={{ minHeight: 64, minWidth: 64, fontSize: '1.5rem' }}
    >
      {sign}
    </Button>
  );
  return (
    <Box role="group" aria-label={t.facet} sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
      {step(-1, '‹', t.earlier)}
      <Box sx={{ minWidth: 240, textAlign: 'center' }} aria-live="polite">
        <Typography sx={{ fontSize: '1.5rem', fontWeight: 600 }}>
          {facetName(script, at)}
        </Typography>
        <Typography color="text.secondary">{passName(script, script.visits[at]!.pass)}</Typography>
      </Box>
      {step(1, '›', t.later)}
    </Box>
  );
}

/** The visits of a setup that can be meant: those that are done, and the one on the screen. */
export function pickable(script: BenchScript, state: BenchState, shown: number): number[] {
  const { setup } = script.visits[shown]!;
  return script.visits.flatMap((v, i) =>
    v.setup === setup && (i === shown || state.visited[i]?.kind === 'done') ? [i] : [],
  );
}
