import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { Draft } from '../../api/client';
import { addDiagram } from '../../api/diagrams';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { w } from '../../words/words';

interface Props {
  title: string;
  lead: string;
  /** What is wished for. */
  fields: ReactNode;
  /** What is proposed for it, drawn. */
  drawn: ReactNode;
  /** What would be kept; undefined while it is not there or cannot be. */
  draft: Draft | undefined;
  error: Error | null;
  keep: string;
  /** Where the diagram comes from, for its record. */
  origin: string;
  onClose: () => void;
}

/** A diagram proposed from a few wishes, drawn beside them, and taken into the library. */
export function ProposalDialog(props: Props) {
  const { title, lead, fields, drawn, draft, error, keep, origin, onClose } = props;
  const navigate = useNavigate();
  const add = useMutation(addDiagram);
  const { readable, report } = useReadable();
  const take = (kept: Draft) =>
    add.mutate(
      { draft: kept, origin, designed: true },
      { onSuccess: (d) => void navigate(`/diagrams/${d.id}`) },
    );
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary">{lead}</Typography>
        <Box
          sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, gap: 5, pt: 3 }}
        >
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, alignContent: 'flex-start' }}>
            <FormFields value={report}>{fields}</FormFields>
            <Refusal error={error ?? add.error} />
          </Box>
          <Box>{drawn}</Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!draft || !readable || add.isPending}
          onClick={() => draft && take(draft)}
        >
          {keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
