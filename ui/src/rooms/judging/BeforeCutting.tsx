import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Diagram, Draft, Solved } from '../../api/client';
import { settingsQuery } from '../../api/queries';
import { Care } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { editingWords } from '../../words/editing';
import { judgingWords } from '../../words/judging';
import { lightWords } from '../../words/light';
import { Loupe } from '../diagrams/Loupe';
import { defaultMachine } from '../machine/useSaveSettings';
import { OrderDialog } from './OrderDialog';
import { useTakeOver } from './useTakeOver';

const { order } = judgingWords;

/** What keeps a diagram from being cut, and the ways to judge it before it is. */
export function BeforeCutting({ diagram: d, solved }: { diagram: Diagram; solved: Solved }) {
  const [open, setOpen] = useState<'order' | 'loupe' | null>(null);
  const settings = useQuery(settingsQuery).data;
  const takeOver = useTakeOver(d);
  const close = () => setOpen(null);
  const take = (draft: Draft) => {
    close();
    if (d.starter) takeOver.asVariant({ ...draft, name: order.variant(draft.name) });
    else takeOver.into(draft, order.taken);
  };
  const whole = solved.stone?.complete ?? false;
  return (
    <Box component="section" aria-label={judgingWords.head} sx={{ mt: 4, mb: 5 }}>
      <Typography variant="h3">{judgingWords.head}</Typography>
      {solved.problems
        .filter((p) => p.tier >= 0)
        .map((p, i) => (
          <Care key={i} grave>
            <strong>{p.tierName}: </strong>
            {p.message}
          </Care>
        ))}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mt: 2 }}>
        <Button onClick={() => setOpen('order')}>{whole ? order.open : order.mend}</Button>
        {whole && (
          <>
            <Button component={Link} to={`/diagrams/${d.id}/light`}>
              {lightWords.open}
            </Button>
            <Button component={Link} to={`/diagrams/${d.id}/angles`}>
              {judgingWords.angles.open}
            </Button>
            <Button component={Link} to={`/diagrams/${d.id}/errors`}>
              {judgingWords.error.open}
            </Button>
            <Button onClick={() => setOpen('loupe')}>{editingWords.loupe.open}</Button>
          </>
        )}
      </Box>
      <Refusal error={takeOver.error} />
      {open === 'order' && (
        <OrderDialog
          draft={d.draft}
          onClose={close}
          onTake={take}
          take={d.starter ? judgingWords.angles.keep : order.take}
        />
      )}
      {open === 'loupe' && (
        <Loupe
          draft={d.draft}
          gears={settings ? defaultMachine(settings).gears : []}
          onClose={close}
        />
      )}
    </Box>
  );
}
