import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { addItems, starterQuery, type ItemKind } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { settingsQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { kitWords } from '../../words/kit';
import { w } from '../../words/words';

const k = kitWords.starterOf;

/** The diameter in mm that most laps of small machines have. */
const usualDiameter = 150;

/** What a beginner needs, to be ticked off. */
export function StarterDialog({ onClose }: { onClose: () => void }) {
  const settings = useQuery(settingsQuery).data;
  const [machine, setMachine] = useState('');
  const [diameter, setDiameter] = useState(usualDiameter);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const say = useNotice();
  const things = useQuery(starterQuery(machine, diameter)).data ?? [];
  const add = useMutation(addItems);
  const chosen = things.filter((t) => !t.have && ticked.has(t.name));
  const toggle = (name: string) => {
    const next = new Set(ticked);
    if (!next.delete(name)) next.add(name);
    setTicked(next);
  };
  const put = () =>
    add.mutate(
      chosen.map(({ kind, name, size }) => ({ kind, name, size })),
      {
        onSuccess: () => {
          say({ text: k.done });
          onClose();
        },
      },
    );
  const kinds = [...new Set(things.map((t) => t.kind))] as ItemKind[];
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{k.title}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 4 }}>{k.lead}</Typography>
        <Row>
          {settings && (
            <PickField
              label={k.machine}
              value={machine || settings.machine}
              options={settings.machines.map((m) => ({ value: m.id, name: m.name }))}
              onChange={setMachine}
            />
          )}
          <NumberField
            label={k.diameter}
            unit="mm"
            {...ranges.Lap.diameter}
            value={diameter}
            onChange={setDiameter}
            width={130}
          />
        </Row>
        {kinds.map((kind) => (
          <Box key={kind} component="section" aria-label={kitWords.shelves[kind]} sx={{ mt: 4 }}>
            <Typography variant="h3" sx={{ borderBottom: 1, pb: 0.5 }}>
              {kitWords.shelves[kind]}
            </Typography>
            {things
              .filter((t) => t.kind === kind)
              .map((t) => (
                <Box key={t.name} sx={{ display: 'flex', alignItems: 'center', minHeight: 44 }}>
                  <FormControlLabel
                    control={
                      <Checkbox
                        checked={t.have || ticked.has(t.name)}
                        disabled={t.have}
                        onChange={() => toggle(t.name)}
                      />
                    }
                    label={t.name}
                    sx={{ width: 210, flexShrink: 0 }}
                  />
                  <Typography variant="body2" color="text.secondary">
                    {t.have ? k.have : t.why}
                  </Typography>
                </Box>
              ))}
          </Box>
        ))}
        <Refusal error={add.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button variant="contained" disabled={chosen.length === 0 || add.isPending} onClick={put}>
          {k.put(chosen.length)}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
