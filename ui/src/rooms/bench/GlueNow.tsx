import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';
import type { BenchScript } from '../../api/client';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { whenCured } from '../../words/gluing';
import { wheelWords as t } from '../../words/wheel';

interface Props {
  script: BenchScript;
  log: StoneLog;
  setup: string;
  /** The place in the log from which on a gluing counts. */
  since: number;
}

/** The gluing on record: told with one tap, so that Today shows until when the bond cures. */
export function GlueNow({ script, log, setup, since }: Props) {
  const before = log.state.dops.findLast((d) => d.setup === setup);
  const glued = before && before.n > since ? before : undefined;
  // A script that an older build has kept knows none.
  const mounts = script.mounts as BenchScript['mounts'] | undefined;
  const planned = mounts?.find((m) => m.setup === setup);
  const { dop, adhesive, minutes } = before ?? planned ?? { dop: '', adhesive: '', minutes: 0 };
  const glue = () =>
    log.add([
      {
        kind: 'dopped',
        payload: { setup, dop, adhesive, minutes, ...(before?.axis && { axis: before.axis }) },
      },
    ]);
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', pt: 2, mt: 2 }}>
      <Typography sx={{ fontWeight: 600 }} role="status">
        {[
          t.gluedWith(dop, adhesive),
          glued && t.cures(whenCured(new Date(glued.cured).toISOString())),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mt: 1 }}>
        {!glued && (
          <Button variant="outlined" onClick={glue} sx={{ minHeight: 64 }}>
            {t.gluedNow}
          </Button>
        )}
        <Button component={Link} to={`/stones/${script.stoneId}/dop`} sx={{ minHeight: 64 }}>
          {t.otherGlue}
        </Button>
      </Box>
    </Box>
  );
}
