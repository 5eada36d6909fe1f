import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { stonesQuery } from '../../api/stones';
import { addBlindTrial, type NewBlindTrial } from '../../api/trials';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { kitWords } from '../../words/kit';
import { w } from '../../words/words';

const k = kitWords.blind;

interface Props {
  onClose: () => void;
  onMade: (id: string) => void;
}

/** Stones or facets that are there, laid out for judges. */
export function BlindDialog({ onClose, onMade }: Props) {
  const [t, setT] = useState<NewBlindTrial>({
    name: '',
    question: k.usualQuestion,
    differs: '',
    entries: [
      { what: '', stone: '' },
      { what: '', stone: '' },
    ],
  });
  const add = useMutation(addBlindTrial);
  const stones = useInfiniteQuery(stonesQuery({})).data?.pages[0]?.stones ?? [];
  const set = (change: Partial<NewBlindTrial>) => setT({ ...t, ...change });
  const setEntry = (i: number, change: Partial<NewBlindTrial['entries'][number]>) =>
    set({ entries: t.entries.map((e, n) => (n === i ? { ...e, ...change } : e)) });
  const whole =
    [t.name, t.question, t.differs].every((text) => text.trim() !== '') &&
    t.entries.every((e) => e.what.trim() !== '');
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{k.addTitle}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'grid', gap: 3, pt: 2 }}>
          <TextField
            label={k.name}
            value={t.name}
            autoFocus
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label={k.question}
            value={t.question}
            onChange={(e) => set({ question: e.target.value })}
          />
          <TextField
            label={k.differs}
            value={t.differs}
            onChange={(e) => set({ differs: e.target.value })}
          />
          {t.entries.map((e, i) => (
            <Box
              key={i}
              role="group"
              aria-label={k.entry(i + 1)}
              sx={{ display: 'flex', gap: 2, alignItems: 'center' }}
            >
              <TextField
                label={`${k.entry(i + 1)}: ${k.what}`}
                value={e.what}
                onChange={(o) => setEntry(i, { what: o.target.value })}
                sx={{ flex: 1 }}
              />
              <PickField
                label={kitWords.polish.stone}
                value={e.stone}
                options={[
                  { value: '', name: kitWords.polish.noStone },
                  ...stones.map((s) => ({
                    value: s.id,
                    name: `${s.number} · ${s.name || s.diagram}`,
                  })),
                ]}
                onChange={(stone) => setEntry(i, { stone })}
                width={300}
              />
              <IconButton
                aria-label={k.removeEntry(i + 1)}
                disabled={t.entries.length === 2}
                onClick={() => set({ entries: t.entries.filter((_, n) => n !== i) })}
              >
                <Close />
              </IconButton>
            </Box>
          ))}
          <Box>
            <Button
              disabled={t.entries.length >= 6}
              onClick={() => set({ entries: [...t.entries, { what: '', stone: '' }] })}
            >
              {k.addEntry}
            </Button>
          </Box>
        </Box>
        <Refusal error={add.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!whole || add.isPending}
          onClick={() =>
            add.mutate(t, {
              onSuccess: (made) => {
                onMade(made.id);
                onClose();
              },
            })
          }
        >
          {k.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
