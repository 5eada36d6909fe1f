import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Diagram, Draft, Solved } from '../../api/client';
import { usualQuery } from '../../api/settings';
import { Care } from '../../parts/Page';
import { TakeOverState } from '../../parts/diagram/TakeOverState';
import { editingWords } from '../../words/editing';
import { anglesWords } from '../../words/angles';
import { errorWords } from '../../words/errors';
import { orderWords } from '../../words/order';
import { lightWords } from '../../words/light';
import { Loupe } from '../../parts/stone/Loupe';
import { OrderDialog } from './OrderDialog';
import { useUsualLighting } from '../../parts/light/useUsualLighting';
import { WithoutDialog } from './WithoutDialog';
import { useTakeOver } from '../../parts/diagram/useTakeOver';

const order = orderWords;

/** What keeps a diagram from being cut, and the ways to judge it before it is. */
export function BeforeCutting({ diagram: d, solved }: { diagram: Diagram; solved: Solved }) {
  const [open, setOpen] = useState<'order' | 'loupe' | 'without' | null>(null);
  const usual = useQuery(usualQuery).data;
  const { data: lighting } = useUsualLighting(d);
  const takeOver = useTakeOver(d, order.taken);
  const close = () => setOpen(null);
  const take = (draft: Draft) => {
    close();
    if (d.starter) takeOver.asVariant({ ...draft, name: order.variant(draft.name) });
    else takeOver.into(draft);
  };
  const whole = solved.stone?.complete ?? false;
  const unsettable = solved.stone?.tiers.some((t) => t.below !== t.above) ?? false;
  return (
    <Box component="section" aria-label={editingWords.beforeCutting} sx={{ mt: 4, mb: 5 }}>
      <Typography variant="h3">{editingWords.beforeCutting}</Typography>
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
            {unsettable && (
              <Button variant="contained" component={Link} to={`/diagrams/${d.id}/angles`}>
                {editingWords.roundAll}
              </Button>
            )}
            <Button component={Link} to={`/diagrams/${d.id}/light`}>
              {lightWords.open}
            </Button>
            <Button component={Link} to={`/diagrams/${d.id}/angles`}>
              {anglesWords.open}
            </Button>
            <Button component={Link} to={`/diagrams/${d.id}/errors`}>
              {errorWords.open}
            </Button>
            <Button onClick={() => setOpen('loupe')}>{editingWords.loupe.open}</Button>
            {lighting && (
              <Button onClick={() => setOpen('without')}>{editingWords.without.open}</Button>
            )}
          </>
        )}
      </Box>
      <TakeOverState of={takeOver} />
      {open === 'order' && (
        <OrderDialog
          draft={d.draft}
          onClose={close}
          onTake={take}
          take={d.starter ? anglesWords.keep : order.take}
        />
      )}
      {open === 'without' && lighting && (
        <WithoutDialog draft={d.draft} lighting={lighting} onClose={close} />
      )}
      {open === 'loupe' && usual && (
        <Loupe draft={d.draft} gears={usual.gears} at={usual.width} onClose={close} />
      )}
    </Box>
  );
}
