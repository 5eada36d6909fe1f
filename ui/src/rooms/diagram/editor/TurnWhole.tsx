import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { StoneView } from '../../../api/client';
import { settingsQuery } from '../../../api/settings';
import { MenuButton } from '../../../parts/MenuButton';
import { editingWords } from '../../../words/editing';

const t = editingWords.turn;

interface Props {
  gear: number;
  /** Turns the whole diagram by so many teeth, clockwise as seen from above the table. */
  onTurn: (by: number) => void;
}

/** Turns a diagram on its gear as a whole. */
export function TurnWhole({ gear, onTurn }: Props) {
  return (
    <MenuButton
      label={t.open}
      entries={[
        ...(gear % 4 === 0 ? [{ label: t.quarter, run: () => onTurn(gear / 4) }] : []),
        { label: t.on, run: () => onTurn(1) },
        { label: t.back, run: () => onTurn(-1) },
      ]}
    />
  );
}

/** Says where a long stone lies otherwise than it is liked, and turns it. */
export function LyingHint({ stone, gear, onTurn }: Props & { stone: StoneView }) {
  const settings = useQuery(settingsQuery).data;
  const liked = settings?.habits.find((h) => h.id === settings.habit)?.long ?? 'across';
  const { lies } = stone;
  if (!settings || lies === 'even' || lies === liked || gear % 4 !== 0) return null;
  return (
    <Typography component="div" color="text.secondary" sx={{ mt: 1 }}>
      {t.lies[lies]}
      <Button size="small" sx={{ ml: 2 }} onClick={() => onTurn(gear / 4)}>
        {t.to[liked]}
      </Button>
    </Typography>
  );
}
