import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { Refusal } from '../forms/Refusal';
import { Sheet } from '../Sheet';
import { lightWords } from '../../words/light';
import { angle, hours, percent } from '../../words/numbers';
import { girdleQuery, type LitDraft } from '../../api/light';

/** What the work on the girdle is worth in light, in a number of passes or, at 0, the usual. */
export function GirdleQuestion({ draft, lighting, passes = 0 }: LitDraft & { passes?: number }) {
  const g = lightWords.girdle;
  const asked = useQuery(girdleQuery(draft, lighting, passes));
  const report = asked.data;
  const best = report?.finishes[0];
  const least = report?.finishes.at(-1);
  return (
    <Box component="section" aria-label={g.head} sx={{ mt: 5 }}>
      <Typography variant="h3">{g.head}</Typography>
      <Refusal error={asked.error} />
      {report && !best && <Typography>{g.none}</Typography>}
      {report && best && least && (
        <>
          <Typography sx={{ my: 1 }}>
            {g.differs(
              percent(best.faceUp.return - least.faceUp.return),
              percent(best.tilted.return - least.tilted.return),
              hours(best.hours - least.hours),
            )}
          </Typography>
          <Sheet
            dense
            fold={560}
            head={[g.finish, g.faceUp, g.tilted(angle(report.tilt)), g.ends, g.visits, g.hours]}
          >
            {report.finishes.map((f) => (
              <tr key={f.finish}>
                <td>{g.finishes[f.finish]}</td>
                <td className="figure">{percent(f.faceUp.return)}</td>
                <td className="figure">{percent(f.tilted.return)}</td>
                <td className="figure">{percent(f.tilted.frosted)}</td>
                <td className="figure">{f.visits}</td>
                <td className="figure">{hours(f.hours)}</td>
              </tr>
            ))}
          </Sheet>
          <Typography color="text.secondary" sx={{ mt: 1 }}>
            {g.lead(angle(report.pace), report.logged)}
          </Typography>
        </>
      )}
    </Box>
  );
}
