import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Die } from '../../api/client';
import { dieQuery } from '../../api/solving';
import { NumberField } from '../../parts/fields/NumberField';
import { Await } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { vec } from '../../parts/stone/geometry';
import { StoneInTheRound } from '../../parts/stone/StoneInTheRound';
import { mm } from '../../words/numbers';
import { solidWords as s } from '../../words/solids';
import { w } from '../../words/words';

/** The faces of a die: their numbers, what lies opposite, and the room for a number. */
export function DieDialog({ id, onClose }: { id: string; onClose: () => void }) {
  const die = useQuery(dieQuery(id));
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{s.die}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary">{s.dieLead}</Typography>
        <Await query={die}>{(d) => <Faces die={d} />}</Await>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

function Faces({ die }: { die: Die }) {
  const [across, setAcross] = useState(16);
  const [chosen, setChosen] = useState(1);
  const paired = die.faces.find((f) => f.opposite > 0);
  // Without faces that lie opposite the height is what calipers read.
  const scale = across / (paired?.across ?? die.levels.top - die.levels.bottom);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, gap: 3, mt: 2 }}>
      <Box sx={{ height: 360 }}>
        <StoneInTheRound
          mesh={die.mesh}
          levels={die.levels}
          selected={new Set(die.faces.filter((f) => f.number === chosen).map((f) => f.face))}
          rings={die.faces.map((f) => ({
            at: vec(f.middle),
            n: f.number,
            label: `${f.number}`,
            chosen: f.number === chosen,
            run: () => setChosen(f.number),
          }))}
        />
      </Box>
      <Box>
        <NumberField
          label={s.acrossFaces}
          unit="mm"
          min={0.1}
          max={500}
          value={across}
          onChange={setAcross}
        />
        <Sheet head={[...s.dieHead]} dense>
          {die.faces.map((f) => (
            <tr key={f.face}>
              <td className="figure">{f.number}</td>
              <td>{f.name}</td>
              <td className="figure">{f.opposite || s.none}</td>
              <td className="figure">{f.opposite ? mm(f.across * scale) : s.none}</td>
              <td className="figure">{mm(2 * f.radius * scale)}</td>
            </tr>
          ))}
        </Sheet>
      </Box>
    </Box>
  );
}
