import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Draft } from '../../api/client';
import { tidyQuery } from '../../api/freehand';
import { Refusal } from '../../parts/forms/Refusal';
import { BothSides } from '../../parts/stone/BothSides';
import { useSolved } from '../../parts/stone/useSolved';
import { freehandWords as t } from '../../words/freehand';
import { mm, plain } from '../../words/numbers';
import { w } from '../../words/words';

interface Props {
  draft: Draft;
  onClose: () => void;
  /** Takes the diagram with the width of the stone in mm, to its page or to plan it. */
  onKeep: (tidy: Draft, width: string, plan: boolean) => void;
}

/** The diagram that comes of a stone that was cut freehand, looked at before it is kept. */
export function TidyDialog({ draft, onClose, onKeep }: Props) {
  const tidy = useQuery(tidyQuery(draft));
  const { solved } = useSolved(tidy.data?.draft ?? draft, {});
  const stone = tidy.data && solved?.stone;
  const keep = (plan: boolean) =>
    tidy.data && onKeep(tidy.data.draft, plain(Math.round(tidy.data.width * 100) / 100), plan);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>{t.tidy}</DialogTitle>
      <DialogContent>
        <Typography gutterBottom>{t.tidyLead}</Typography>
        {tidy.isPending && <LinearProgress aria-label={w.common.loading} />}
        <Refusal error={tidy.error} />
        {tidy.data && (
          <Typography variant="figures" role="status">
            {t.tidied(tidy.data.tiers, tidy.data.facets, mm(tidy.data.width))}
          </Typography>
        )}
        {stone && <BothSides mesh={stone.mesh} height={300} />}
        {stone?.tiers.map((tier) => (
          <Typography key={tier.key}>
            <strong>{tier.name}</strong> {tier.angle}° {tier.stop}
          </Typography>
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button disabled={!stone?.complete} onClick={() => keep(true)}>
          {t.plan}
        </Button>
        <Button variant="contained" disabled={!stone?.complete} onClick={() => keep(false)}>
          {t.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
