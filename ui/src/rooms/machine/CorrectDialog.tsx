import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Instrument } from '../../api/client';
import { ranges } from '../../api/ranges';
import type { Quantity } from '../../live/live';
import { NumberField } from '../../parts/fields/NumberField';
import { useInstruments, useReadings } from '../../parts/instruments/useReadings';
import { Row } from '../../parts/Row';
import { instrumentWords as t } from '../../words/instruments';
import { w } from '../../words/words';

interface Props {
  instrument: Instrument;
  quantity: Quantity;
  onSave: (scales: Instrument['scales']) => void;
  onClose: () => void;
}

/** How an instrument's readings are corrected: which way it counts, and what is added. */
export function CorrectDialog({ instrument, quantity, onSave, onClose }: Props) {
  const had = instrument.scales.find((s) => s.quantity === quantity);
  const [reversed, setReversed] = useState(had?.reversed ?? false);
  const [offset, setOffset] = useState(had?.offset ?? 0);
  const [known, setKnown] = useState<number>();
  const live = useReadings().get(quantity);
  const told = useInstruments().find((s) => s.id === instrument.id);
  const { raw } =
    live?.instrument === instrument.id
      ? live
      : (told?.now.find((r) => r.quantity === quantity) ?? { raw: undefined });
  const is = raw === undefined ? undefined : (reversed ? -raw : raw) + offset;
  const others = instrument.scales.filter((s) => s.quantity !== quantity);
  const write = (v: number | undefined) => (v === undefined ? '–' : t.reading[quantity](v));
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>
        {t.correct}: {t.quantities[quantity]}
      </DialogTitle>
      <DialogContent>
        <Typography gutterBottom>{t.correctLead}</Typography>
        <Typography variant="figures" component="p" sx={{ fontSize: '1.75rem', my: 3 }}>
          {t.reads} {write(raw)} → {t.is.toLowerCase()} {write(is)}
        </Typography>
        <FormControlLabel
          control={<Checkbox checked={reversed} onChange={(_, on) => setReversed(on)} />}
          label={t.reversed}
        />
        <Row>
          <NumberField
            label={t.shouldBe}
            unit={t.units[quantity]}
            measures={nothing}
            {...ranges.InstrumentScale.offset}
            value={known}
            optional=""
            onChange={setKnown}
            autoFocus
          />
          <Button
            disabled={known === undefined || raw === undefined}
            onClick={() => setOffset(tidy(known! - (reversed ? -raw! : raw!)))}
          >
            {t.set}
          </Button>
          <NumberField
            label={t.offset}
            unit={t.units[quantity]}
            measures={nothing}
            {...ranges.InstrumentScale.offset}
            value={offset}
            onChange={setOffset}
          />
        </Row>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onSave(others)}>{t.asRead}</Button>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          onClick={() => onSave([...others, { quantity, reversed, offset }])}
        >
          {t.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What is typed here is what the instrument should have read. */
const nothing = { quantities: [] };

/** Drops what a difference of decimal fractions adds in binary. */
const tidy = (v: number): number => Math.round(v * 1e6) / 1e6;
