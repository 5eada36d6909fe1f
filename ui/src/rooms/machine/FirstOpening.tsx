import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Settings } from '../../api/client';
import { useNotice } from '../../app/notice';
import { Refusal } from '../../parts/Refusal';
import { machineWords as m } from '../../words/machine';
import { w } from '../../words/words';
import { GearsField } from './GearsField';
import { StepField } from './MachineFields';
import { defaultMachine, useSaveSettings } from './useSaveSettings';

/** The three questions of a first opening: enough for plans and the bench to fit. */
export function FirstOpening({ settings }: { settings: Settings }) {
  const [machine, setMachine] = useState(defaultMachine(settings));
  const [gears, setGears] = useState<number[] | undefined>(machine.gears);
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
        if (!gears) return;
        const mine = { ...machine, gears };
        const machines = settings.machines.map((o) => (o.id === mine.id ? mine : o));
        save({ ...settings, machines }, settings.version);
      }}
      sx={{ p: 6, borderBottom: 1, borderColor: 'divider', backgroundColor: 'background.paper' }}
    >
      <Typography variant="h2">{w.setup.title}</Typography>
      <Typography color="text.secondary" sx={{ mb: 4 }}>
        {w.setup.lead}
      </Typography>
      <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <GearsField value={machine.gears} onChange={setGears} />
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
        <Button type="submit" variant="contained" disabled={!gears || isPending}>
          {m.save}
        </Button>
        <Button onClick={() => save(settings, settings.version)}>{w.common.skip}</Button>
      </Box>
      <Refusal error={error} />
    </Box>
  );
}
