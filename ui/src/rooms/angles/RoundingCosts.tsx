import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { AnglesReport, LoupeMeet } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { um } from '../../words/numbers';
import { anglesWords } from '../../words/angles';
import type { AngleWish } from './angleWish';

const a = anglesWords;
const roundings = { best: a.best, nearest: a.nearest };

/** Meets that are listed: the widest. */
const listed = 10;

interface Props {
  report: AnglesReport;
  chosen: AngleWish['search'];
}

/** What rounding opens at best, and to the nearest. */
export function RoundingCosts({ report, chosen }: Props) {
  return (
    <Box component="section" aria-label={a.cost}>
      <Sheet dense head={[[a.cost, a.costHelp], a.gap, a.residual]}>
        {(['best', 'nearest'] as const).map((kind) => (
          <Box
            component="tr"
            key={kind}
            sx={{ background: (t) => (kind === chosen ? t.tokens.copperWash : undefined) }}
          >
            <td>{roundings[kind]}</td>
            <td className="figure">{um(report[kind].gap)}</td>
            <td className="figure">{um(report[kind].residual)}</td>
          </Box>
        ))}
      </Sheet>
    </Box>
  );
}

/** The meets that do not hold any more, the widest first. */
export function OpenMeets({ meets }: { meets: LoupeMeet[] }) {
  const open = meets.filter((m) => m.gap > 0.05);
  if (open.length === 0) return <Typography sx={{ mt: 4 }}>{a.keeps}</Typography>;
  return (
    <Box component="section" aria-label={a.meet} sx={{ mt: 4 }}>
      <Typography color="text.secondary">{a.costHelp}</Typography>
      <Sheet dense head={[a.meet, a.gap, a.residual]}>
        {open.slice(0, listed).map((m) => (
          <tr key={m.facets.join()}>
            <Box component="td" className="figure" sx={{ whiteSpace: 'normal !important' }}>
              {m.facets.join(' ')}
            </Box>
            <td className="figure">{um(m.gap)}</td>
            <td className="figure">{um(m.residual)}</td>
          </tr>
        ))}
      </Sheet>
    </Box>
  );
}
