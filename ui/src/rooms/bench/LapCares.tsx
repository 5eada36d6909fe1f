import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { BenchScript } from '../../api/client';
import { nothing, tellItem } from '../../api/kit';
import { Refusal } from '../../parts/forms/Refusal';
import { Care } from '../../parts/Page';
import { kitWords } from '../../words/kit';
import type { Reread } from './reread';

interface Props {
  script: BenchScript;
  /** The visit that stands on the screen. */
  at: number;
  reread: Reread;
}

/**
 * What is wrong with the lap of a pass: in full where the lap is put on, in a word through the rest of
 * the pass. It can be said to be clean here.
 */
export function LapCares({ script, at, reread }: Props) {
  const tell = useMutation(tellItem);
  const visit = script.visits[at]!;
  // A script that an older build has kept knows none.
  const cares = script.lapCares as BenchScript['lapCares'] | undefined;
  const care = cares?.find((c) => c.pass === visit.pass);
  if (!care) return null;
  const { way, lapItem, lap } = care;
  const puttingOn = visit.move.pass || visit.move.first;
  const cleaned = () =>
    way &&
    tell.mutate(
      {
        ...nothing,
        id: lapItem,
        kind: way.way === 'renew' ? 'renewed' : 'cleaned',
        way: way.way === 'renew' ? '' : way.way,
        on: new Date().toLocaleDateString('sv'),
      },
      { onSuccess: () => void reread() },
    );
  return (
    <Care>
      {puttingOn ? (
        <>
          <Typography variant="body2">
            <strong>{lap}: </strong>
            {care.texts.join(' ')} {way?.text}{' '}
            {way && (
              <Button
                variant="outlined"
                size="small"
                disabled={tell.isPending}
                onClick={cleaned}
                sx={{ minHeight: 44 }}
              >
                {kitWords.ways[way.way]}
              </Button>
            )}
          </Typography>
          <Refusal error={tell.error} />
        </>
      ) : (
        <Typography sx={{ fontWeight: 600 }}>{kitWords.atBench.dirty(lap)}</Typography>
      )}
    </Care>
  );
}
