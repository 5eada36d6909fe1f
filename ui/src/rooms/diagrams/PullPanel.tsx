import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useKeys } from '../../app/keys';
import { Refusal } from '../../parts/Refusal';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';
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
      <Box
        component="ol"
        aria-label={p.reaches}
        sx={{
          listStyle: 'none',
          p: 0,
          m: 0,
          mt: 2,
          maxHeight: 190,
          overflow: 'auto',
        }}
      >
        {pulling.reaches.map((r, i) => (
          <Box component="li" key={r.stop + i}>
            <Button
              fullWidth
              aria-pressed={pulling.at === i}
              onClick={() => pulling.choose(i)}
              sx={{
                border: 0,
                minHeight: 36,
                justifyContent: 'flex-start',
                textAlign: 'left',
                whiteSpace: 'normal',
                background: (t) => (pulling.at === i ? t.tokens.emberWash : undefined),
              }}
            >
              <Typography variant="figures" component="span" sx={{ minWidth: 32 }}>
                {i + 1}
              </Typography>
              {r.words}
            </Button>
          </Box>
        ))}
      </Box>
      {pulling.reaches.length > 0 && pulling.at === null && (
        <Typography color="text.secondary">{p.between}</Typography>
      )}
    </Box>
  );
}
