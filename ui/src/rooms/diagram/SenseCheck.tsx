import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Diagram, Solved } from '../../api/client';
import { chooseSense } from '../../api/diagrams';
import { Care } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { BothSides } from '../../parts/stone/BothSides';
import { libraryWords } from '../../words/library';
import { useSolved } from '../../parts/stone/useSolved';

const s = libraryWords.sense;
const indexings = ['dialled', 'shared'] as const;
type Indexing = (typeof indexings)[number];

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
  const choose = useMutation(chooseSense);
  return (
    <Dialog open onClose={onLater} maxWidth="lg" fullWidth>
      <DialogTitle>{s.title}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 3, maxWidth: 760 }}>{s.text}</Typography>
        <Refusal error={choose.error} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 6 }}>
          {indexings.map((indexing) => (
            <Outcome
              key={indexing}
              diagram={d}
              indexing={indexing}
              onChoose={() => choose.mutate({ diagram: d, indexing })}
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
  indexing: Indexing;
  onChoose: () => void;
  busy: boolean;
}) {
  const { shown, solved } = useSolved({ ...props.diagram.draft, indexing: props.indexing });
  const problem = solved?.problems[0];
  return (
    <Box>
      <Typography variant="h3">{s[props.indexing]}</Typography>
      <Box sx={{ height: 260 }}>
        {shown && (
          <BothSides mesh={shown.mesh} wheel={shown.wheel} height={260} of={s[props.indexing]} />
        )}
      </Box>
      {problem && <Care grave>{problem.message}</Care>}
      <Button variant="contained" onClick={props.onChoose} disabled={props.busy} sx={{ mt: 2 }}>
        {s.choose[props.indexing]}
      </Button>
    </Box>
  );
}
