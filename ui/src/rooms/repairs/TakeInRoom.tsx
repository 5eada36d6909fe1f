import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { answer, client } from '../../api/client';
import { stonesKey } from '../../api/queries';
import { PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { repairWords as r } from '../../words/repairs';
import { IntakeForm, nothingWritten } from './IntakeForm';

/** A stone comes in for repair. */
export function TakeInRoom() {
  const [written, setWritten] = useState(nothingWritten);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: () => answer(client.POST('/api/repairs', { body: { ...written, version: 0 } })),
    onSuccess: (s) => {
      void queries.invalidateQueries({ queryKey: stonesKey });
      void navigate(`/repairs/${s.id}`);
    },
  });
  return (
    <>
      <PageHead title={r.title}>
        <Button
          variant="contained"
          disabled={written.name.trim() === '' || take.isPending}
          onClick={() => take.mutate()}
        >
          {r.keep}
        </Button>
      </PageHead>
      <Box sx={{ p: 6 }}>
        <Typography color="text.secondary" sx={{ mb: 4 }}>
          {r.lead}
        </Typography>
        <Refusal error={take.error} />
        <IntakeForm value={written} onChange={setWritten} />
      </Box>
    </>
  );
}
