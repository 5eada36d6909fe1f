import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { answer, client, type StoneLine } from '../../api/client';
import { stoneLineQuery, stonesKey } from '../../api/queries';
import { Await, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { repairWords as r } from '../../words/repairs';
import { IntakeForm, nothingWritten, type Written } from './IntakeForm';

/** A stone comes in for repair: a new one, or one that was finished here. */
export function TakeInRoom() {
  const [params] = useSearchParams();
  const id = params.get('stone');
  const stone = useQuery({ ...stoneLineQuery(id ?? ''), enabled: id !== null });
  if (id === null) return <TakeIn />;
  return <Await query={stone}>{(s) => <TakeIn stone={s} />}</Await>;
}

/** What is known of a stone that was finished here. */
function knownOf(s: StoneLine): Written {
  const { intake } = nothingWritten;
  return {
    name: s.name || s.diagram,
    intake: {
      ...intake,
      material: s.material,
      carats: s.finish?.finishedCarats ?? 0,
      widthMM: s.finish?.widthMM ?? 0,
      lengthMM: s.finish?.lengthMM ?? 0,
      heightMM: s.finish?.heightMM ?? 0,
    },
  };
}

function TakeIn({ stone }: { stone?: StoneLine }) {
  const [written, setWritten] = useState(() => (stone ? knownOf(stone) : nothingWritten));
  const navigate = useNavigate();
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: () =>
      stone
        ? answer(
            client.POST('/api/stones/{id}/repairs', {
              params: { path: { id: stone.id } },
              body: { intake: written.intake, version: stone.version },
            }),
          )
        : answer(client.POST('/api/repairs', { body: { ...written, version: 0 } })),
    onSuccess: (s) => {
      void queries.invalidateQueries({ queryKey: stonesKey });
      void navigate(`/repairs/${s.id}`);
    },
  });
  return (
    <>
      <PageHead title={stone ? r.cameBack(stone.number, written.name) : r.title}>
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
          {stone ? r.leadBack : r.lead}
        </Typography>
        <Refusal error={take.error} />
        <IntakeForm value={written} onChange={setWritten} named={!stone} />
      </Box>
    </>
  );
}
