import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { DraftTier } from '../../api/client';
import { w } from '../../words/words';

interface Props {
  tier: DraftTier;
  /** Names of the other tiers, to choose a meet from. */
  names: string[];
  onPick: (stop: string) => void;
  onClose: () => void;
}

/** The figure that a kind of stop takes, and what it measures. */
const figures: Record<string, { label: string; usual: string }> = {
  centre: { label: w.stopPicker.drop, usual: '0' },
  size: { label: w.stopPicker.radius, usual: '0.5' },
  girdle: { label: w.stopPicker.thickness, usual: '0.02' },
  along: { label: w.stopPicker.at, usual: '0.5' },
  width: { label: w.stopPicker.ratio, usual: '0.55' },
  depth: { label: w.stopPicker.distance, usual: '0.5' },
};

/** Kinds of stop that a tier of a part can have. */
function kindsFor(tier: DraftTier): string[] {
  const no =
    tier.part === 'girdle' ? ['centre', 'girdle', 'width'] : tier.part === 'crown' ? [] : ['width'];
  return Object.keys(w.stopKinds).filter((k) => !no.includes(k));
}

/** Chooses a stop from lists and writes it as it would be typed. */
export function StopPicker({ tier, names, onPick, onClose }: Props) {
  const kinds = kindsFor(tier);
  const [kind, setKind] = useState(kinds.find((k) => tier.stop.startsWith(k)) ?? 'meet');
  const typed = readStop(tier.stop);
  const [figure, setFigure] = useState<Record<string, string>>({ [kind]: typed.figure });
  const [from, setFrom] = useState(typed.from);
  const [to, setTo] = useState(typed.to);
  const wants = figures[kind];
  const value = figure[kind] || wants?.usual || '';
  const meets = kind === 'meet' || kind === 'along';
  const ready = (!meets || from.length > 0) && (kind !== 'along' || to.length > 0);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{w.stopPicker.title(tier.name)}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 4 }}>
        <ToggleButtonGroup
          exclusive
          value={kind}
          onChange={(_, k: string | null) => k && setKind(k)}
          sx={{ flexWrap: 'wrap' }}
          aria-label={w.tiers.stop}
        >
          {kinds.map((k) => (
            <ToggleButton key={k} value={k}>
              {w.stopKinds[k]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {meets && (
          <MeetPicker
            label={kind === 'meet' ? w.stopPicker.meet : w.stopPicker.from}
            names={names}
            chosen={from}
            onChange={setFrom}
          />
        )}
        {kind === 'along' && (
          <MeetPicker label={w.stopPicker.to} names={names} chosen={to} onChange={setTo} />
        )}
        {wants && (
          <TextField
            label={wants.label}
            value={value}
            onChange={(e) => setFigure({ ...figure, [kind]: e.target.value })}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!ready}
          onClick={() => onPick(write(kind, value, from, to))}
        >
          {w.stopPicker.use}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What is typed already, as far as it can be told apart: the picker starts from it. */
function readStop(stop: string): { figure: string; from: string[]; to: string[] } {
  const [, ...words] = stop.split(/[\s,]+/).filter(Boolean);
  const arrow = words.indexOf('>');
  const at = words.lastIndexOf('at');
  if (arrow >= 0) {
    const to = words.slice(arrow + 1, at < 0 ? undefined : at);
    return { figure: words[at + 1] ?? '', from: words.slice(0, arrow), to };
  }
  const single = words.length === 1 && !Number.isNaN(Number(words[0]));
  return single ? { figure: words[0]!, from: [], to: [] } : { figure: '', from: words, to: [] };
}

function write(kind: string, figure: string, from: string[], to: string[]): string {
  if (kind === 'meet') return `meet ${from.join(' ')}`;
  if (kind === 'along') return `along ${from.join(' ')} > ${to.join(' ')} at ${figure}`;
  return kind === 'centre' && Number(figure) === 0 ? 'centre' : `${kind} ${figure}`;
}

/** Picks the facets of a meet, one entry for each, by their tiers. */
function MeetPicker({
  label,
  names,
  chosen,
  onChange,
}: {
  label: string;
  names: string[];
  chosen: string[];
  onChange: (c: string[]) => void;
}) {
  return (
    <Box role="group" aria-label={label}>
      <Typography gutterBottom>{label}</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mb: 2 }}>
        {names.map((n) => (
          <Button key={n} onClick={() => onChange([...chosen, n])} sx={{ minWidth: 56 }}>
            + {n}
          </Button>
        ))}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        {chosen.length === 0 && <Typography color="text.secondary">{w.stopPicker.none}</Typography>}
        {chosen.map((n, i) => (
          <Button
            key={i}
            variant="contained"
            onClick={() => onChange(chosen.filter((_, k) => k !== i))}
            aria-label={w.stopPicker.takeOut(n)}
            sx={{ minWidth: 56 }}
          >
            {n} ✕
          </Button>
        ))}
      </Box>
    </Box>
  );
}
