import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { libraryQuery } from '../../api/diagrams';
import { Thumbnail } from '../../parts/Thumbnail';
import { recutWords as t } from '../../words/recut';
import { w } from '../../words/words';

interface Props {
  chosen: string | undefined;
  onChoose: (id: string) => void;
}

/** The diagrams of the library by their looks: the one that a stone follows is chosen. */
export function ChooseForm({ chosen, onChoose }: Props) {
  const [text, setText] = useState('');
  const found = useInfiniteQuery(libraryQuery({ text, limit: 40 }));
  const diagrams = found.data?.pages[0]?.diagrams ?? [];
  return (
    <Box component="section" aria-label={t.diagram} sx={{ mt: 4 }}>
      <TextField
        label={t.diagram}
        value={text}
        onChange={(e) => setText(e.target.value)}
        sx={{ width: 240, mb: 3 }}
      />
      {found.data && diagrams.length === 0 && (
        <Typography role="status">{w.diagrams.none}</Typography>
      )}
      <Box
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: 'repeat(auto-fill, minmax(200px, 1fr))',
        }}
      >
        {diagrams.map((d) => (
          <ButtonBase
            key={d.id}
            aria-pressed={d.id === chosen}
            onClick={() => onChoose(d.id)}
            sx={{
              flexDirection: 'column',
              p: 2,
              borderRadius: 1,
              background: (theme) => (d.id === chosen ? theme.tokens.copperWash : undefined),
            }}
          >
            <Thumbnail hash={d.revision} size={84} />
            <Typography component="span" sx={{ fontWeight: d.id === chosen ? 600 : undefined }}>
              {d.name || w.diagrams.noName}
            </Typography>
          </ButtonBase>
        ))}
      </Box>
    </Box>
  );
}
