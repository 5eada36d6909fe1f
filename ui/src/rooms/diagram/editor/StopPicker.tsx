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
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { DraftTier, StopKind, StopParts } from '../../../api/client';
import { fieldsQuery } from '../../../api/settings';
import { stopPartsQuery, writeStop } from '../../../api/solving';
import { PickField } from '../../../parts/fields/PickField';
import { Refusal } from '../../../parts/forms/Refusal';
import { Await } from '../../../parts/Page';
import { w } from '../../../words/words';

interface Props {
  tier: DraftTier;
  /** Names of the other tiers, to choose a meet from. */
  names: string[];
  onPick: (stop: string) => void;
  onClose: () => void;
}

/** What the figure of a kind of stop measures. */
const figureLabels: Record<string, string> = {
  centre: w.stopPicker.drop,
  size: w.stopPicker.radius,
  girdle: w.stopPicker.thickness,
  along: w.stopPicker.at,
  width: w.stopPicker.ratio,
  depth: w.stopPicker.distance,
};

/** The same where it is measured in mm or in per cent of the width. */
const acrossLabels: Record<string, string> = {
  size: w.stopPicker.across,
  girdle: w.stopPicker.thickness,
  width: w.stopPicker.tableWidth,
};

/** The units that a figure may be in. A size is measured across on the girdle alone. */
function unitsOf(kind: string, part: string): string[] {
  const measured = kind === 'girdle' || kind === 'width' || (kind === 'size' && part === 'girdle');
  return measured ? ['mm', '%', ''] : [''];
}

/** Chooses a stop from lists and writes it as it would be typed. */
export function StopPicker(props: Props) {
  const fields = useQuery(fieldsQuery);
  const typed = useQuery(stopPartsQuery(props.tier.stop));
  return (
    <Dialog open onClose={props.onClose} maxWidth="md" fullWidth>
      <DialogTitle>{w.stopPicker.title(props.tier.name)}</DialogTitle>
      <Await query={fields}>
        {(f) => (
          <Await query={typed}>
            {(parts) => <Choices {...props} kinds={f.stops} typed={parts} />}
          </Await>
        )}
      </Await>
    </Dialog>
  );
}

interface ChoicesProps extends Props {
  kinds: StopKind[];
  /** What is typed already, as far as it can be read: the picker starts from it. */
  typed: StopParts;
}

function Choices({ tier, names, onPick, onClose, kinds, typed }: ChoicesProps) {
  const offered = kinds.filter((k) => (k.parts as string[]).includes(tier.part));
  const [kind, setKind] = useState(
    offered.some((k) => k.kind === typed.kind) ? typed.kind : 'meet',
  );
  const [figures, setFigures] = useState<Record<string, string>>({ [typed.kind]: typed.figure });
  const [unit, setUnit] = useState(typed.unit);
  const [from, setFrom] = useState(typed.from);
  const [to, setTo] = useState(typed.to);
  const write = useMutation(writeStop);
  const usual = offered.find((k) => k.kind === kind)?.usual ?? null;
  const units = unitsOf(kind, tier.part);
  const inUnit = units.includes(unit) ? unit : '';
  const figure = figures[kind] || (inUnit === '' ? usual : '') || '';
  const meets = kind === 'meet' || kind === 'along';
  const ready = (!meets || from.length > 0) && (kind !== 'along' || to.length > 0);
  const use = () =>
    write.mutate(
      { kind, figure, unit: inUnit, from, to },
      { onSuccess: ({ stop }) => onPick(stop) },
    );
  return (
    <>
      <DialogContent sx={{ display: 'grid', gap: 4 }}>
        <ToggleButtonGroup
          exclusive
          value={kind}
          onChange={(_, k: string | null) => k && setKind(k)}
          sx={{ flexWrap: 'wrap' }}
          aria-label={w.tiers.stop}
        >
          {offered.map((k) => (
            <ToggleButton key={k.kind} value={k.kind}>
              {w.stopKinds[k.kind]}
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
        {usual !== null && (
          <Box sx={{ display: 'flex', gap: 2 }}>
            <TextField
              label={inUnit === '' ? figureLabels[kind] : acrossLabels[kind]}
              value={figure}
              onChange={(e) => setFigures({ ...figures, [kind]: e.target.value })}
              sx={{ flexGrow: 1 }}
              slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            />
            {units.length > 1 && (
              <PickField
                label={w.stopPicker.unit}
                value={inUnit}
                options={units.map((value) => ({ value, name: w.stopPicker.units[value]! }))}
                onChange={setUnit}
                width={170}
              />
            )}
          </Box>
        )}
        <Refusal error={write.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button variant="contained" disabled={!ready || write.isPending} onClick={use}>
          {w.stopPicker.use}
        </Button>
      </DialogActions>
    </>
  );
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
