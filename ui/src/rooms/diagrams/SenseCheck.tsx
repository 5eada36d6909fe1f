import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, type Diagram, type Solved } from '../../api/client';
import { diagramListsKey, diagramQuery, withChange } from '../../api/queries';
import { Care } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { libraryWords } from '../../words/library';
import { w } from '../../words/words';
import { useSolved } from './useSolved';

const s = libraryWords.sense;
const ways = ['dialled', 'shared'] as const;

interface Props {
  diagram: Diagram;
  solved: Solved | undefined;
}

/** Asks once which way the indexes of a diagram without a mirror line run, with both stones drawn. */
export function SenseCheck({ diagram, solved }: Props) {
  const [later, setLater] = useState(false);
  const asks =
    !diagram.starter &&
    !diagram.senseChosen &&
    !later &&
    solved?.warnings.some((p) => p.code === 'sense-matters');
  return asks ? <Question diagram={diagram} onLater={() => setLater(true)} /> : null;
}

function Question({ diagram: d, onLater }: { diagram: Diagram; onLater: () => void }) {
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (indexing: (typeof ways)[number]) =>
      answer(
        client.POST('/api/diagrams/{id}/sense', {
          params: { path: { id: d.id } },
          body: { indexing, version: d.version },
        }),
      ),
    onSuccess: (changed) => {
      queries.setQueryData(diagramQuery(d.id).queryKey, withChange(changed));
      void queries.invalidateQueries({ queryKey: diagramListsKey });
    },
  });
  return (
    <Dialog open onClose={onLater} maxWidth="lg" fullWidth>
      <DialogTitle>{s.title}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 3, maxWidth: 760 }}>{s.text}</Typography>
        <Refusal error={choose.error} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 6 }}>
          {ways.map((way) => (
            <Outcome
              key={way}
              diagram={d}
              way={way}
              onChoose={() => choose.mutate(way)}
              busy={choose.isPending}
            />
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onLater}>{s.later}</Button>
      </DialogActions>
    </Dialog>
  );
}

function Outcome(props: {
  diagram: Diagram;
  way: (typeof ways)[number];
  onChoose: () => void;
  busy: boolean;
}) {
  const { shown, solved } = useSolved({ ...props.diagram.draft, indexing: props.way });
  const problem = solved?.problems[0];
  return (
    <Box>
      <Typography variant="h3">{s[props.way]}</Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height: 260 }}>
        {shown &&
          (['crown', 'pavilion'] as const).map((up) => (
            <StoneInWheel
              key={up}
              mesh={shown.mesh}
              step={shown.mesh.steps.length - 1}
              up={up}
              wheel={shown.wheel}
              lit={[]}
              label={`${s[props.way]}: ${w.drawing.inWheel(up)}`}
            />
          ))}
      </Box>
      {problem && <Care grave>{problem.message}</Care>}
      <Button variant="contained" onClick={props.onChoose} disabled={props.busy} sx={{ mt: 2 }}>
        {s.choose[props.way]}
      </Button>
    </Box>
  );
}
