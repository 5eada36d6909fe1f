import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState, type KeyboardEvent } from 'react';
import type { LookedAt } from '../../api/rough';
import { lookWords as l } from '../../words/look';
import { LookPicture } from './LookPicture';

const ways = Object.keys(l.ways) as LookedAt['way'][];

interface Props {
  seen: LookedAt[];
  /** What was seen so far is kept in the draft with every answer. */
  onSeen: (seen: LookedAt[]) => void;
  /** Leaves the look to mark a flaw with what was written of it. */
  onMark: (name: string) => void;
  onClose: () => void;
}

/** A guided look: one way of looking at a time, answered by a key, each of them skippable. */
export function LookDialog({ seen, onSeen, onMark, onClose }: Props) {
  // It goes on with the first way that was not gone through.
  const first = ways.findIndex((way) => !seen.some((s) => s.way === way));
  const [at, setAt] = useState(first < 0 ? 0 : first);
  const way = ways[at]!;
  const known = seen.find((s) => s.way === way);
  const [note, setNote] = useState(known?.note ?? '');
  const [writing, setWriting] = useState(known?.what === 'something');
  const go = (to: number) => {
    if (to >= ways.length) return onClose();
    const next = seen.find((s) => s.way === ways[to]);
    setAt(to);
    setNote(next?.note ?? '');
    setWriting(next?.what === 'something');
  };
  const answer = (what: LookedAt['what'], text = '') =>
    onSeen([...seen.filter((s) => s.way !== way), { way, what, note: text }]);
  const choose = (what: LookedAt['what']) => {
    answer(what, what === 'something' ? note : '');
    if (what === 'something') setWriting(true);
    else go(at + 1);
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return;
    const what = ({ 1: 'nothing', 2: 'something', 0: 'skipped' } as const)[e.key];
    if (what) {
      e.preventDefault();
      choose(what);
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth onKeyDown={onKeyDown}>
      <DialogTitle>{l.title}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'grid', gridTemplateColumns: '168px 1fr', gap: 5 }}>
          <LookPicture way={way} />
          <Box>
            <Typography variant="h2" gutterBottom aria-live="polite">
              {l.ways[way].name}
            </Typography>
            <Typography gutterBottom>{l.ways[way].look}</Typography>
            <Typography variant="body2" color="text.secondary">
              {l.of(at + 1, ways.length)} · {known ? l.what[known.what] : l.keys}
            </Typography>
          </Box>
        </Box>
        {writing && (
          <Box sx={{ display: 'flex', gap: 3, mt: 4, alignItems: 'center' }}>
            <TextField
              label={l.note}
              value={note}
              autoFocus
              fullWidth
              onChange={(e) => {
                setNote(e.target.value);
                answer('something', e.target.value);
              }}
              onKeyDown={(e) => e.key === 'Enter' && go(at + 1)}
            />
            <Button sx={{ flexShrink: 0 }} onClick={() => onMark(note)}>
              {l.mark}
            </Button>
          </Box>
        )}
      </DialogContent>
      <DialogActions sx={{ justifyContent: 'space-between' }}>
        <Button disabled={at === 0} onClick={() => go(at - 1)}>
          {l.back}
        </Button>
        <Box sx={{ display: 'flex', gap: 2 }}>
          <Button onClick={() => choose('skipped')}>{l.skip}</Button>
          {writing ? (
            <Button variant="contained" onClick={() => go(at + 1)}>
              {at + 1 < ways.length ? l.next : l.done}
            </Button>
          ) : (
            <>
              <Button onClick={() => choose('something')}>{l.something}</Button>
              <Button variant="contained" autoFocus onClick={() => choose('nothing')}>
                {l.nothing}
              </Button>
            </>
          )}
        </Box>
      </DialogActions>
    </Dialog>
  );
}
