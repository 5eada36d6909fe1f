import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Settings } from '../../api/client';
import { useNotice } from '../../parts/notice';
import { Refusal } from '../../parts/forms/Refusal';
import { machineWords as m } from '../../words/machine';
import { w } from '../../words/words';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { GearsField } from '../../parts/settings/GearsField';
import { StepField } from '../../parts/settings/StepField';
import { useSaveSettings } from '../../parts/settings/useSaveSettings';
import { defaultMachine } from '../../api/settings';

/** The four questions of a first opening: enough for plans and the bench to fit. */
export function FirstOpening({ settings }: { settings: Settings }) {
  const [machine, setMachine] = useState(defaultMachine(settings));
  const { readable, report } = useReadable();
  const say = useNotice();
  // Where another screen has answered meanwhile, its answers come in and these questions go.
  const { save, isPending, error } = useSaveSettings(
    () => say({ text: m.saved }),
    () => {},
  );
  return (
    <Box
      component="form"
      aria-label={w.setup.title}
      onSubmit={(e) => {
        e.preventDefault();
        if (!readable) return;
        const machines = settings.machines.map((o) => (o.id === machine.id ? machine : o));
        save({ ...settings, machines }, settings.version);
      }}
      sx={{ p: 6, borderBottom: 1, borderColor: 'divider', backgroundColor: 'background.paper' }}
    >
      <Typography variant="h2">{w.setup.title}</Typography>
      <Typography color="text.secondary" sx={{ mb: 4 }}>
        {w.setup.lead}
      </Typography>
      <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <FormFields value={report}>
          <GearsField
            value={machine.gears}
            onChange={(gears) => setMachine({ ...machine, gears })}
          />
        </FormFields>
        <StepField
          value={machine.angleStep}
          onChange={(angleStep) => setMachine({ ...machine, angleStep })}
        />
        <FormControlLabel
          control={
            <Switch
              checked={machine.cheater !== 'none'}
              onChange={(e) =>
                setMachine({ ...machine, cheater: e.target.checked ? 'degrees' : 'none' })
              }
            />
          }
          label={m.hasCheater}
        />
        <FormControlLabel
          control={
            <Switch
              checked={machine.heightStep > 0}
              onChange={(e) => setMachine({ ...machine, heightStep: e.target.checked ? 0.01 : 0 })}
            />
          }
          label={m.hasDial}
        />
        <Button type="submit" variant="contained" disabled={!readable || isPending}>
          {m.save}
        </Button>
        <Button onClick={() => save(settings, settings.version)}>{w.common.skip}</Button>
      </Box>
      <Refusal error={error} />
    </Box>
  );
}
