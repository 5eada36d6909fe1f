import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { addPiecePhotos, type Piece } from '../../api/rough';
import { Refusal } from '../../parts/forms/Refusal';
import { photoWords as r } from '../../words/photos';
import { MarkedPhoto } from './MarkedPhoto';
import { Part } from './Part';
import { MarkDots } from './MarkDots';

/** Photos of a piece, small with their marks; a click opens one to mark it. */
export function PiecePhotos({ piece }: { piece: Piece }) {
  const input = useRef<HTMLInputElement>(null);
  const add = useMutation(addPiecePhotos);
  const [opened, open] = useState<string>();
  const at = piece.photos.findIndex((p) => p.id === opened);
  return (
    <Part head={r.photos} add={r.addPhotos} onAdd={() => input.current?.click()}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
        {piece.photos.map((p, i) => (
          <Button
            key={p.id}
            onClick={() => open(p.id)}
            aria-label={r.open(r.marks.title(i + 1), p.marks.length)}
            sx={{ p: 0, minWidth: 0, lineHeight: 0 }}
          >
            <Box sx={{ position: 'relative' }}>
              <Box
                component="img"
                src={`/api/photos/${p.hash}/small`}
                alt=""
                sx={{ height: 92, display: 'block' }}
              />
              <MarkDots marks={p.marks} />
            </Box>
          </Button>
        ))}
      </Box>
      {piece.photos.length === 0 && <Typography color="text.secondary">{r.noneOfPiece}</Typography>}
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
          if (files.length > 0) add.mutate({ piece: piece.id, files });
        }}
      />
      <Refusal error={add.error} />
      {piece.photos[at] && (
        <MarkedPhoto
          key={opened}
          piece={piece.id}
          photo={piece.photos[at]}
          number={at + 1}
          onClose={() => open(undefined)}
        />
      )}
    </Part>
  );
}
