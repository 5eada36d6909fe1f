import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import {
  blindKeyQuery,
  blindTrialQuery,
  blindTrialsQuery,
  openBlindTrial,
  type BlindOutcome,
  type BlindTrial,
} from '../../api/trials';
import { BesideList } from '../../parts/BesideList';
import { ChoiceList } from '../../parts/ChoiceList';
import { Refusal } from '../../parts/forms/Refusal';
import { Await, Care, Empty } from '../../parts/Page';
import { TextLink } from '../../parts/TextLink';
import { kitWords } from '../../words/kit';
import { day } from '../../words/numbers';
import { w } from '../../words/words';
import { BlindDialog } from './BlindDialog';
import { PairDialog } from './PairDialog';

const k = kitWords.blind;

/** Trials that are judged by those who do not know which is which. */
export function TrialsDesk() {
  const trials = useQuery(blindTrialsQuery);
  const [params, setParams] = useSearchParams();
  const [adding, setAdding] = useState<'own' | 'pair'>();
  const choose = (id: string) => setParams({ show: 'trials', trial: id }, { replace: true });
  const close = () => setAdding(undefined);
  const begin = (
    <Box sx={{ display: 'flex', gap: 2, my: 3 }}>
      <Button variant="contained" onClick={() => setAdding('pair')}>
        {k.pair}
      </Button>
      <Button onClick={() => setAdding('own')}>{k.add}</Button>
    </Box>
  );
  return (
    <Await query={trials}>
      {(all) => {
        const chosen = all.find((t) => t.id === params.get('trial')) ?? all[0];
        return (
          <>
            {all.length === 0 || !chosen ? (
              <Empty text={k.none}>{begin}</Empty>
            ) : (
              <BesideList
                list={
                  <>
                    <ChoiceList
                      label={kitWords.tabs.trials}
                      list={all}
                      keyOf={(t) => t.id}
                      isChosen={(t) => t.id === chosen.id}
                      onChoose={(t) => choose(t.id)}
                    >
                      {(t) => (
                        <>
                          <span>{t.name}</span>
                          <Typography component="span" variant="body2">
                            {day(t.created)}
                          </Typography>
                        </>
                      )}
                    </ChoiceList>
                    {begin}
                  </>
                }
              >
                <Trial key={chosen.id} id={chosen.id} />
              </BesideList>
            )}
            {adding === 'own' && <BlindDialog onClose={close} onMade={choose} />}
            {adding === 'pair' && <PairDialog onClose={close} onMade={choose} />}
          </>
        );
      }}
    </Await>
  );
}

function Trial({ id }: { id: string }) {
  const trial = useQuery({ ...blindTrialQuery(id), refetchInterval: 10_000 });
  return (
    <Await query={trial}>
      {(t) => (
        <Box component="section" aria-label={t.name} sx={{ maxWidth: 760 }}>
          <Typography variant="h2">{t.name}</Typography>
          <Typography>{t.question}</Typography>
          <Typography color="text.secondary">
            {k.differs}: {t.differs}
          </Typography>
          {t.outcome ? <Outcome outcome={t.outcome} /> : <Judging trial={t} />}
        </Box>
      )}
    </Await>
  );
}

/** While judges may come: the way to their page, and the key for whoever lays the stones out. */
function Judging({ trial: t }: { trial: BlindTrial }) {
  const [showsKey, setShowsKey] = useState(false);
  const [asks, setAsks] = useState(false);
  const key = useQuery({ ...blindKeyQuery(t.id), enabled: showsKey, retry: false });
  const open = useMutation(openBlindTrial);
  return (
    <>
      <Typography sx={{ my: 3 }}>
        {k.judges(t.judges.length)} {t.judges.join(', ')}
      </Typography>
      <Typography color="text.secondary">{k.judgeLead}</Typography>
      <Box sx={{ display: 'flex', gap: 2, my: 3, flexWrap: 'wrap' }}>
        <Button variant="contained" component={Link} to={`/kit/trials/${t.id}/judge`}>
          {k.judge}
        </Button>
        <Button onClick={() => setShowsKey(true)}>{k.key}</Button>
        <Button disabled={t.judges.length === 0} onClick={() => setAsks(true)}>
          {k.open}
        </Button>
      </Box>
      <Refusal error={key.error ?? open.error} />
      {showsKey && key.data && (
        <>
          <Care>{k.keyHelp}</Care>
          {key.data.map((e) => (
            <Typography key={e.letter}>
              <strong>{e.letter}</strong>: {e.what}
              {e.number > 0 && ` · ${k.stone(e.number)}`}
            </Typography>
          ))}
        </>
      )}
      {asks && (
        <Dialog open onClose={() => setAsks(false)}>
          <DialogTitle>{k.open}</DialogTitle>
          <DialogContent>
            <Typography>{k.openAsk}</Typography>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setAsks(false)}>{w.common.cancel}</Button>
            <Button
              variant="contained"
              onClick={() => {
                setAsks(false);
                open.mutate(t.id);
              }}
            >
              {k.open}
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </>
  );
}

/** The votes as a row of marks for each entry, and how sure they can be. */
function Outcome({ outcome: o }: { outcome: BlindOutcome }) {
  const most = Math.max(...o.entries.map((e) => e.votes));
  return (
    <>
      <Typography sx={{ my: 3, fontSize: '1.125rem' }}>{o.says}</Typography>
      {o.entries.map((e) => (
        <Box
          key={e.letter}
          sx={{ display: 'flex', gap: 4, borderTop: 1, borderColor: 'divider', py: 1.5 }}
        >
          <Typography variant="figures" sx={{ fontSize: '1.5rem', width: 32 }}>
            {e.letter}
          </Typography>
          <Box sx={{ flexGrow: 1 }}>
            <Typography>
              {e.what}
              {e.stone && (
                <>
                  {' · '}
                  <TextLink to={`/stones/${e.stone}`}>{k.stone(e.number)}</TextLink>
                </>
              )}
            </Typography>
            <Box aria-hidden sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 0.5 }}>
              {Array.from({ length: e.votes }, (_, i) => (
                <Box
                  key={i}
                  sx={{
                    width: 14,
                    height: 14,
                    bgcolor: e.votes === most ? 'primary.main' : 'text.secondary',
                  }}
                />
              ))}
            </Box>
          </Box>
          <Typography variant="figures">{e.votes}</Typography>
        </Box>
      ))}
      {o.alike > 0 && (
        <Typography sx={{ borderTop: 1, borderColor: 'divider', py: 1.5 }}>
          {o.alike} {k.alike}
        </Typography>
      )}
      {o.notes
        .filter((n) => n.note !== '')
        .map((n) => (
          <Typography key={n.judge} color="text.secondary">
            {n.judge}
            {n.letter && ` (${n.letter})`}: {n.note}
          </Typography>
        ))}
    </>
  );
}
