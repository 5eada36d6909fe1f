import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { ranges } from '../api/ranges';
import { NumberField } from '../parts/fields/NumberField';
import { FormFields, useReadable } from '../parts/fields/unreadable';
import { Row } from '../parts/Row';
import { simulatorWords as t } from '../words/simulator';
import { w } from '../words/words';
import type { Errors, Setup } from './useMachine';

interface RoughProps {
  setup: Setup;
  onDop: (setup: Setup) => void;
  onClose: () => void;
}

/** Another rough, and the gear and the chance that go with it. */
export function RoughDialog({ setup, onDop, onClose }: RoughProps) {
  const [draft, setDraft] = useState(setup);
  const { readable, report } = useReadable();
  const change = (part: Partial<Setup>) => setDraft({ ...draft, ...part });
  const limits = ranges.SimulatedSetup;
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{t.rough}</DialogTitle>
      <DialogContent>
        <Typography gutterBottom>{t.roughLead}</Typography>
        <FormFields value={report}>
          <Row>
            <NumberField
              label={t.width}
              unit={w.units.mm}
              {...limits.width}
              value={draft.width}
              onChange={(width) => change({ width })}
            />
            <NumberField
              label={t.tall}
              unit={w.units.mm}
              {...limits.height}
              value={draft.height}
              onChange={(height) => change({ height })}
            />
            <NumberField
              label={t.hardness}
              {...limits.hardness}
              value={draft.hardness}
              onChange={(hardness) => change({ hardness })}
            />
            <NumberField
              label={t.sg}
              {...limits.sg}
              value={draft.sg}
              onChange={(sg) => change({ sg })}
            />
            <NumberField
              label={t.gear}
              {...limits.gear}
              whole
              value={draft.gear}
              onChange={(gear) => change({ gear })}
            />
            <NumberField
              label={t.seed}
              {...limits.seed}
              whole
              value={draft.seed}
              help={t.seedHelp}
              onChange={(seed) => change({ seed })}
            />
          </Row>
        </FormFields>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button variant="contained" disabled={!readable} onClick={() => onDop(draft)}>
          {t.dop}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

interface ErrorsProps {
  errors: Errors;
  /** Those of most machines. */
  usual: Errors;
  onSet: (errors: Errors) => void;
  onClose: () => void;
}

const perfect: Errors = {
  angle: 0,
  index: 0,
  depth: 0,
  zero: 0,
  bend: 0,
  adapter: 0,
  tilt: 0,
  towards: 0,
  twist: 0,
  dull: false,
};

const units: Partial<Record<keyof Errors, string>> = {
  angle: w.units.degrees,
  index: w.units.degrees,
  depth: w.units.mm,
  zero: w.units.degrees,
  bend: w.units.degrees,
  adapter: w.units.degrees,
  tilt: w.units.degrees,
  twist: w.units.degrees,
};

/** What the machine does otherwise than its dials say. */
export function ErrorsDialog({ errors, usual, onSet, onClose }: ErrorsProps) {
  const [draft, setDraft] = useState(errors);
  const { readable, report } = useReadable();
  const names = Object.entries(t.errorNames) as [keyof typeof t.errorNames, string][];
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{t.errors}</DialogTitle>
      <DialogContent>
        <Typography gutterBottom>{t.errorsLead}</Typography>
        <Row>
          <Button onClick={() => setDraft(perfect)}>{t.none}</Button>
          <Button onClick={() => setDraft(usual)}>{t.usual}</Button>
        </Row>
        <FormFields value={report}>
          <Row>
            {names.map(([name, label]) => (
              <NumberField
                key={name}
                label={label}
                unit={units[name]}
                {...ranges.SimulatedErrors[name]}
                value={draft[name]}
                onChange={(v) => setDraft({ ...draft, [name]: v })}
                width={250}
              />
            ))}
          </Row>
        </FormFields>
        <FormControlLabel
          control={
            <Checkbox checked={draft.dull} onChange={(_, dull) => setDraft({ ...draft, dull })} />
          }
          label={t.dull}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button variant="contained" disabled={!readable} onClick={() => onSet(draft)}>
          {t.set}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
