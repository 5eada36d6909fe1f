import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { DiagramPage } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { libraryWords } from '../../words/library';
import { angle, mm, plain } from '../../words/numbers';

const d = libraryWords.difficulty;

/** How hard a diagram is to cut, and what makes it so. */
export function DifficultyPanel({ judged }: { judged: NonNullable<DiagramPage['judged']> }) {
  return (
    <Box component="section" aria-label={d.head} sx={{ my: 5 }}>
      <Typography variant="h3">
        {d.head}: {d.summary(libraryWords.levels[judged.level]!, plain(judged.difficulty.points))}
      </Typography>
      <Typography color="text.secondary">{d.lead}</Typography>
      <Sheet dense head={[d.factor, d.value, d.points]}>
        {judged.difficulty.weights.map((f) => (
          <tr key={f.factor}>
            <td>{d.factors[f.factor]}</td>
            <td className="figure">
              {f.factor === 'smallest-facet'
                ? mm(f.value)
                : f.factor === 'largest-cheat'
                  ? `${angle(f.value)}°`
                  : plain(f.value)}
            </td>
            <td className="figure">{f.points > 0 ? `+${plain(f.points)}` : '–'}</td>
          </tr>
        ))}
      </Sheet>
    </Box>
  );
}
