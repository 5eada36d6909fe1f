import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Draft } from '../../api/client';
import { stopsQuery } from '../../api/solving';
import { Await, Care } from '../Page';
import { Sheet } from '../Sheet';
import { BothSides } from '../stone/BothSides';
import { endedWords, stopsWords } from '../../words/order';
import { w } from '../../words/words';
import { useSolved } from '../stone/useSolved';

const s = stopsWords;

interface Props {
  draft: Draft;
  onClose: () => void;
  onTake: (draft: Draft) => void;
}

/** Stops for the tiers that have none, or plainer ones: proposals in pictures to choose from. */
export function StopsDialog({ draft, onClose, onTake }: Props) {
  const [chosen, setChosen] = useState(0);
  const found = useQuery(stopsQuery(draft));
  const proposal = found.data?.proposals[chosen];
  const changed = proposal?.tiers.some((t, i) => t.stop !== draft.tiers[i]!.stop);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{s.title}</DialogTitle>
      <DialogContent tabIndex={0}>
        <Await query={found}>
          {(f) => (
            <>
              <Typography>{f.guessed ? s.guessed : changed ? s.derived : s.none}</Typography>
              {f.ended !== 'complete' && <Care>{endedWords[f.ended]}</Care>}
              {f.guessed && (
                <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', my: 3 }}>
                  {f.proposals.map((p, i) => (
                    <Choice
                      key={i}
                      n={i + 1}
                      draft={p}
                      chosen={i === chosen}
                      onChoose={() => setChosen(i)}
                    />
                  ))}
                </Box>
              )}
              {proposal && changed && <Stops was={draft} is={proposal} />}
            </>
          )}
        </Await>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.close}</Button>
        {proposal && changed && (
          <Button variant="contained" onClick={() => onTake(proposal)}>
            {s.take}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

interface ChoiceProps {
  n: number;
  draft: Draft;
  chosen: boolean;
  onChoose: () => void;
}

/** One stone that may be meant, from both sides. */
function Choice({ n, draft, chosen, onChoose }: ChoiceProps) {
  const stone = useSolved(draft).solved?.stone;
  return (
    <Button
      onClick={onChoose}
      aria-pressed={chosen}
      sx={{
        display: 'block',
        p: 1,
        borderWidth: chosen ? 2 : 1,
        borderColor: chosen ? 'text.primary' : 'divider',
      }}
    >
      {s.choice(n)}
      <Box sx={{ width: 232, height: 116 }}>
        {stone && <BothSides mesh={stone.mesh} height={116} pixel={1} of={s.choice(n)} />}
      </Box>
    </Button>
  );
}

/** The stops that would be written, those that change marked. */
function Stops({ was, is }: { was: Draft; is: Draft }) {
  const worded = new Map(useSolved(is).solved?.stone?.tiers.map((t) => [t.key, t.stop]));
  return (
    <Sheet dense head={[w.tiers.tier, w.tiers.angle, w.tiers.stop]}>
      {is.tiers.map((t, i) => (
        <Box
          component="tr"
          key={t.key}
          sx={{
            background: (th) => (t.stop === was.tiers[i]!.stop ? undefined : th.tokens.copperWash),
          }}
        >
          <td className="figure">{t.name}</td>
          <td className="figure">{t.angle}°</td>
          <td>{worded.get(t.key) ?? t.stop}</td>
        </Box>
      ))}
    </Sheet>
  );
}
