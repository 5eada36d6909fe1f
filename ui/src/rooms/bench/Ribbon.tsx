import { useTheme } from '@mui/material/styles';
import Box from '@mui/material/Box';
import type { BenchScript } from '../../api/client';
import { w } from '../../words/words';
import type { BenchState } from '../../log/standing';

interface Props {
  script: BenchScript;
  state: BenchState;
  /** Place of the visit that is shown. */
  at: number;
}

/** The cuts of this pass as ticks: hollow until on disk, then filled; skipped ones struck through. */
export function Ribbon({ script, state, at }: Props) {
  const { tokens } = useTheme();
  const now = script.visits[at]!;
  const places = script.visits.flatMap((v, i) =>
    v.setup === now.setup && v.pass === now.pass && v.adapter === now.adapter ? [i] : [],
  );
  const tierOf = (i: number) => script.facets[script.visits[i]!.facet]!.tier;
  const done = places.filter((i) => state.visited[i] && !state.skipped.includes(i)).length;
  return (
    <Box
      role="img"
      aria-label={`${w.bench.ribbon}: ${w.bench.progress(done, places.length)}`}
      sx={{ display: 'flex', flexWrap: 'wrap', gap: '3px', py: 1 }}
    >
      {places.map((i, k) => {
        const mark = state.visited[i];
        const begins = k > 0 && tierOf(i) !== tierOf(places[k - 1]!);
        const filled = mark?.events.some((e) => !e.held);
        return (
          <Box
            key={i}
            data-tick={mark ? (filled ? 'disk' : 'held') : 'open'}
            sx={{
              width: 9,
              height: 14,
              ml: begins ? 1 : 0,
              border: '1.5px solid',
              borderColor: i === at ? tokens.ember : mark ? tokens.copper : tokens.hairline,
              background: filled
                ? mark?.kind === 'skip'
                  ? `linear-gradient(135deg, transparent 44%, ${tokens.copper} 44% 56%, transparent 56%)`
                  : tokens.copper
                : i === at
                  ? tokens.emberWash
                  : 'transparent',
            }}
          />
        );
      })}
    </Box>
  );
}
