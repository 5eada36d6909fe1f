import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import type { Photo } from '../../api/client';
import { addPhotos, dropPhoto } from '../../api/stones';
import { Refusal } from '../../parts/forms/Refusal';
import { repairWords as r } from '../../words/repairs';

/** Photos of a stone, small; a click opens one whole. */
export function Photos({ stone, photos }: { stone: string; photos: Photo[] }) {
  const input = useRef<HTMLInputElement>(null);
  const add = useMutation(addPhotos);
  const drop = useMutation(dropPhoto);
  return (
    <Box component="section" aria-label={r.photos}>
      <Typography variant="h3" gutterBottom>
        {r.photos}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
        {photos.map((p, i) => (
          <Box key={p.id} sx={{ position: 'relative' }}>
            <a href={`/api/photos/${p.hash}`} target="_blank" rel="noreferrer">
              <Box
                component="img"
                src={`/api/photos/${p.hash}/small`}
                alt={r.photo(i + 1)}
                sx={{ height: 170, display: 'block', border: 1, borderColor: 'divider' }}
              />
            </a>
            <IconButton
              onClick={() => drop.mutate({ stone, photo: p.id })}
              aria-label={r.dropPhoto(i + 1)}
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
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mt: 2 }}>
        <Button onClick={() => input.current?.click()} disabled={add.isPending}>
          {r.addPhotos}
        </Button>
        <Typography color="text.secondary">{r.photoHelp}</Typography>
      </Box>
      <input
        ref={input}
        type="file"
        multiple
        accept="image/jpeg,image/png"
        hidden
        aria-label={r.addPhotos}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length > 0) add.mutate({ stone, files });
        }}
      />
      <Refusal error={add.error ?? drop.error} />
    </Box>
  );
}
