import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { Photo } from '../../api/client';
import { addPhotos, dropPhoto } from '../../api/stones';
import { photoWords as r } from '../../words/photos';
import { w } from '../../words/words';
import { Refusal } from '../forms/Refusal';

interface Props {
  stone: string;
  /** Those of the work; which of them are shown says `shows`. */
  photos: readonly Photo[];
  shows: Photo['shows'];
  head: string;
  /** An earlier work is only looked at. */
  closed?: boolean;
}

/** Photos of a stone before its work or after, small; a click opens one whole. */
export function Photos({ stone, photos: all, shows, head, closed }: Props) {
  const photos = all.filter((p) => p.shows === shows);
  const input = useRef<HTMLInputElement>(null);
  const add = useMutation(addPhotos);
  const drop = useMutation(dropPhoto);
  const [going, setGoing] = useState<Photo>();
  return (
    <Box component="section" aria-label={head}>
      <Typography variant="h2" component="h3" gutterBottom>
        {head}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
        {photos.map((p, i) => (
          <Box key={p.id} sx={{ position: 'relative' }}>
            <a href={`/api/photos/${p.hash}`} target="_blank" rel="noreferrer">
              <Box
                component="img"
                src={`/api/photos/${p.hash}/small`}
                alt={r.photo(head, i + 1)}
                sx={{ height: 170, display: 'block', border: 1, borderColor: 'divider' }}
              />
            </a>
            {!closed && (
              <IconButton
                onClick={() => setGoing(p)}
                aria-label={r.dropPhoto(head, i + 1)}
                sx={{
                  position: 'absolute',
                  top: 0,
                  right: 0,
                  backgroundColor: 'background.paper',
                  '&:hover': { backgroundColor: 'background.paper' },
                }}
              >
                <Close />
              </IconButton>
            )}
          </Box>
        ))}
      </Box>
      {photos.length === 0 && closed && <Typography>–</Typography>}
      {!closed && (
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mt: 2 }}>
          <Button onClick={() => input.current?.click()} disabled={add.isPending}>
            {r.addPhotos}
          </Button>
          <Typography color="text.secondary">{r.photoHelp}</Typography>
        </Box>
      )}
      <input
        ref={input}
        type="file"
        multiple
        accept="image/jpeg,image/png"
        hidden
        aria-label={`${r.addPhotos}: ${head}`}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length > 0) add.mutate({ stone, shows, files });
        }}
      />
      <Refusal error={add.error ?? drop.error} />
      {going && (
        <Dialog open onClose={() => setGoing(undefined)}>
          <DialogTitle>{r.dropTitle}</DialogTitle>
          <DialogContent>
            <Box
              component="img"
              src={`/api/photos/${going.hash}/small`}
              alt=""
              sx={{ maxHeight: 240, display: 'block' }}
            />
            <Typography sx={{ mt: 2 }}>{r.dropLead}</Typography>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setGoing(undefined)}>{w.common.cancel}</Button>
            <Button
              variant="contained"
              onClick={() => {
                drop.mutate({ stone, photo: going.id });
                setGoing(undefined);
              }}
            >
              {r.drop}
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </Box>
  );
}
