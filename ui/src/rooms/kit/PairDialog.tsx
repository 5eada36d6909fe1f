import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { stonesQuery } from '../../api/stones';
import { planPair, type Twin } from '../../api/trials';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { KitField } from '../../parts/kit/KitField';
import { kitWords } from '../../words/kit';
import { w } from '../../words/words';

const k = kitWords.blind;

interface Props {
  onClose: () => void;
  onMade: (id: string) => void;
}

/** A second stone like one that is planned, but for one thing. */
export function PairDialog({ onClose, onMade }: Props) {
  const planned = useInfiniteQuery(stonesQuery({ state: 'planned' })).data?.pages[0]?.stones ?? [];
  const [by, setBy] = useState<'polish' | 'girdle'>('polish');
  const [t, setT] = useState<Twin>({
    stone: '',
    girdle: '',
    polish: { lap: '', lapItem: '', compound: '', compoundItem: '' },
    question: k.usualQuestion,
  });
  const plan = useMutation(planPair);
  const set = (change: Partial<Twin>) => setT({ ...t, ...change });
  const polish = (change: Partial<Twin['polish']>) => set({ polish: { ...t.polish, ...change } });
  const whole =
    t.stone !== '' &&
    t.question.trim() !== '' &&
    (by === 'girdle' ? t.girdle !== '' : t.polish.lap.trim() !== '');
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{k.pairTitle}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 4 }}>{planned.length === 0 ? k.noPlanned : k.pairLead}</Typography>
        <Box sx={{ display: 'grid', gap: 3 }}>
          <PickField
            label={k.first}
            value={t.stone}
            options={planned.map((s) => ({
              value: s.id,
              name: `${s.number} · ${s.name || s.diagram}`,
            }))}
            onChange={(stone) => set({ stone })}
            width="100%"
          />
          <PickField
            label={k.by}
            value={by}
            options={k.bys}
            onChange={(next) => {
              setBy(next);
              set({ girdle: next === 'girdle' ? 'cut' : '' });
            }}
            width="100%"
          />
          {by === 'girdle' ? (
            <PickField
              label={k.girdle}
              value={t.girdle}
              options={k.girdles}
              onChange={(girdle) => set({ girdle: girdle as Twin['girdle'] })}
              width="100%"
            />
          ) : (
            <Box sx={{ display: 'flex', gap: 2 }}>
              <KitField
                label={kitWords.polish.lap}
                kind="lap"
                text={t.polish.lap}
                item={t.polish.lapItem}
                onChange={(lap, lapItem) => polish({ lap, lapItem })}
              />
              <KitField
                label={kitWords.polish.compound}
                kind="compound"
                text={t.polish.compound}
                item={t.polish.compoundItem}
                onChange={(compound, compoundItem) => polish({ compound, compoundItem })}
              />
            </Box>
          )}
          <TextField
            label={k.question}
            value={t.question}
            onChange={(e) => set({ question: e.target.value })}
          />
        </Box>
        <Refusal error={plan.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!whole || plan.isPending}
          onClick={() =>
            plan.mutate(t, {
              onSuccess: (made) => {
                onMade(made.id);
                onClose();
              },
            })
          }
        >
          {k.planBoth}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
