import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { blindTrialQuery, judgeTrial, type BlindTrial } from '../../api/trials';
import { Refusal } from '../../parts/forms/Refusal';
import { Await, PageHead } from '../../parts/Page';
import { kitWords } from '../../words/kit';

const k = kitWords.blind;

/** Where judges say which it is. Nothing here tells which is which. */
export function JudgeRoom() {
  const { id = '' } = useParams();
  // The order of the letters is drawn once for a judge: they must not jump under the finger.
  const trial = useQuery({ ...blindTrialQuery(id), staleTime: Infinity, refetchOnMount: 'always' });
  return (
    <Await query={trial}>
      {(t) => (
        <>
          <PageHead title={t.question} facts={[t.name]}>
            <Button component={Link} to="/kit?show=trials">
              {k.back}
            </Button>
          </PageHead>
          <Box sx={{ p: 6, maxWidth: 900, mx: 'auto' }}>
            {t.outcome ? <Typography>{k.closed}</Typography> : <Judge trial={t} />}
          </Box>
        </>
      )}
    </Await>
  );
}

function Judge({ trial: t }: { trial: BlindTrial }) {
  const [judge, setJudge] = useState('');
  // undefined: nothing was chosen; '': no difference.
  const [letter, setLetter] = useState<string>();
  const [note, setNote] = useState('');
  const give = useMutation(judgeTrial);
  const [letters, setLetters] = useState(t.letters);
  const next = () => {
    setJudge('');
    setLetter(undefined);
    setNote('');
    setLetters(t.letters);
    give.reset();
  };
  if (give.isSuccess)
    return (
      <>
        <Typography variant="h2" sx={{ mb: 4 }}>
          {k.thanks}
        </Typography>
        <Button variant="contained" onClick={next} sx={{ minHeight: 64 }}>
          {k.next}
        </Button>
      </>
    );
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      <TextField
        label={k.yourName}
        value={judge}
        autoComplete="off"
        onChange={(e) => setJudge(e.target.value)}
        sx={{ maxWidth: 360 }}
      />
      <Box role="group" aria-label={t.question} sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
        {letters.map((l) => (
          <Button
            key={l}
            variant={letter === l ? 'contained' : 'outlined'}
            aria-pressed={letter === l}
            aria-label={k.chosen(l)}
            onClick={() => setLetter(l)}
            sx={{ flex: '1 1 140px', minHeight: 160, fontSize: '4rem' }}
          >
            {l}
          </Button>
        ))}
      </Box>
      <Button
        variant={letter === '' ? 'contained' : 'outlined'}
        aria-pressed={letter === ''}
        onClick={() => setLetter('')}
        sx={{ minHeight: 64 }}
      >
        {k.same}
      </Button>
      <TextField label={k.note} value={note} multiline onChange={(e) => setNote(e.target.value)} />
      <Refusal error={give.error} />
      <Button
        variant="contained"
        disabled={judge.trim() === '' || letter === undefined || give.isPending}
        onClick={() => give.mutate({ id: t.id, judge: judge.trim(), letter: letter ?? '', note })}
        sx={{ minHeight: 64 }}
      >
        {k.give}
      </Button>
    </Box>
  );
}
