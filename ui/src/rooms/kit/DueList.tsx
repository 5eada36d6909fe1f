import Typography from '@mui/material/Typography';
import type { Shelved } from '../../api/kit';
import { ChoiceList } from '../../parts/ChoiceList';
import { kitWords as k } from '../../words/kit';

interface Props {
  things: Shelved[];
  onChoose: (id: string) => void;
}

/** What runs out, wears out, is past its date or dirty, the gravest first. */
export function DueList({ things, onChoose }: Props) {
  const grave = (s: Shelved) => (s.needs.some((n) => n.grave) ? 0 : 1);
  const due = things.filter((s) => s.needs.length > 0).sort((a, b) => grave(a) - grave(b));
  if (due.length === 0) return <Typography>{k.nothingDue}</Typography>;
  return (
    <ChoiceList
      label={k.due}
      list={due}
      keyOf={(s) => s.item.id}
      isChosen={() => false}
      onChoose={(s) => onChoose(s.item.id)}
    >
      {(s) => (
        <span>
          {s.item.name}
          {s.needs.map((n) => (
            <Typography
              key={n.need}
              component="span"
              variant="body2"
              color={n.grave ? 'error' : 'text.secondary'}
              sx={{ display: 'block', pb: 1 }}
            >
              {n.text}
            </Typography>
          ))}
        </span>
      )}
    </ChoiceList>
  );
}
