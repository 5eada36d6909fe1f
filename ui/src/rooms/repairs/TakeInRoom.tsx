import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { StoneLine } from '../../api/client';
import { stoneLineQuery, takeBack, takeIn } from '../../api/stones';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Await, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
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
  const fresh = useMutation(takeIn);
  const again = useMutation(takeBack);
  const { readable, report } = useReadable();
  const open = { onSuccess: (s: { id: string }) => void navigate(`/repairs/${s.id}`) };
  const take = () =>
    stone
      ? again.mutate({ stone: stone.id, intake: written.intake, version: stone.version }, open)
      : fresh.mutate(written, open);
  const busy = fresh.isPending || again.isPending;
  return (
    <>
      <PageHead title={stone ? r.cameBack(stone.number, written.name) : r.title}>
        <Button
          variant="contained"
          disabled={written.name.trim() === '' || !readable || busy}
          onClick={take}
        >
          {r.keep}
        </Button>
      </PageHead>
      <Box sx={{ p: 6 }}>
        <Typography color="text.secondary" sx={{ mb: 4 }}>
          {stone ? r.leadBack : r.lead}
        </Typography>
        <Refusal error={fresh.error ?? again.error} />
        <FormFields value={report}>
          <IntakeForm value={written} onChange={setWritten} named={!stone} />
        </FormFields>
      </Box>
    </>
  );
}
