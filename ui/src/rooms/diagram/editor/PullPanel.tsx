import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useKeys } from '../../../parts/keys';
import { ChoiceList } from '../../../parts/ChoiceList';
import { Refusal } from '../../../parts/forms/Refusal';
import { editingWords } from '../../../words/editing';
import { w } from '../../../words/words';
import type { Pulling } from './usePull';

const p = editingWords.pull;

interface Props {
  pulling: Pulling;
  name: string;
  onClose: () => void;
}

/** The meets that a tier reaches as it is lowered, to choose from; the same by keys. */
export function PullPanel({ pulling, name, onClose }: Props) {
  useKeys([
    { keys: [']'], label: p.deeper, run: () => pulling.step(1), repeats: true },
    { keys: ['['], label: p.higher, run: () => pulling.step(-1), repeats: true },
    { keys: ['}'], label: p.finer, run: () => pulling.nudge(1), repeats: true },
    { keys: ['{'], label: p.coarser, run: () => pulling.nudge(-1), repeats: true },
    { keys: ['Escape'], label: w.common.close, run: onClose },
  ]);
  return (
    <Box
      component="section"
      aria-label={p.title(name)}
      sx={{ border: 1, borderColor: 'primary.main', p: 3, mb: 3 }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h3" sx={{ flexGrow: 1 }}>
          {p.title(name)}
        </Typography>
        <Button size="small" onClick={() => pulling.step(-1)} aria-label={p.higher}>
          [
        </Button>
        <Button size="small" onClick={() => pulling.step(1)} aria-label={p.deeper}>
          ]
        </Button>
        <Button size="small" onClick={onClose}>
          {w.common.close}
        </Button>
      </Box>
      <Typography color="text.secondary" variant="body2">
        {p.help}
      </Typography>
      <Refusal error={pulling.error} />
      {pulling.reaches.length === 0 && !pulling.error && <Typography>{p.none}</Typography>}
      <ChoiceList
        label={p.reaches}
        list={pulling.reaches}
        keyOf={(r, i) => r.stop + i}
        isChosen={(_, i) => pulling.at === i}
        onChoose={(_, i) => pulling.choose(i)}
        now
        row={36}
        most={190}
      >
        {(r, i) => (
          <>
            <Typography variant="figures" component="span" sx={{ minWidth: 24 }}>
              {i + 1}
            </Typography>
            <Box component="span" sx={{ flexGrow: 1 }}>
              {r.words}
            </Box>
          </>
        )}
      </ChoiceList>
      {pulling.reaches.length > 0 && pulling.at === null && (
        <Typography color="text.secondary">{p.between}</Typography>
      )}
    </Box>
  );
}
