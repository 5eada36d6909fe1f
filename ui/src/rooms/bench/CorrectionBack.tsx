import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { flushQuery, takePlanBack } from '../../api/stones';
import { Refusal } from '../../parts/forms/Refusal';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { movedWords as t } from '../../words/moved';
import { heardOf } from './otherwise';
import type { Reread } from './reread';

interface Props {
  stone: string;
  log: StoneLog;
  setup: string;
  reread: Reread;
  onClose: () => void;
}

/** Takes back what was corrected last for how the stone sits, as long as nothing is cut to it. */
export function CorrectionBack({ stone, log, setup, reread, onClose }: Props) {
  const flush = useQuery(flushQuery(stone, setup, heardOf(log)));
  const back = useMutation(takePlanBack);
  if (!flush.data?.canUndo) return null;
  const { version } = flush.data;
  return (
    <Box sx={{ mb: 3 }}>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
        <Typography>{t.corrected}</Typography>
        <Button
          variant="outlined"
          disabled={back.isPending || flush.isFetching}
          onClick={() =>
            back.mutate({ stone, version }, { onSuccess: () => void reread().then(onClose) })
          }
          sx={{ minHeight: 64 }}
        >
          {t.takeBack}
        </Button>
      </Box>
      <Refusal error={back.error} />
    </Box>
  );
}
