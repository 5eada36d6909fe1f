import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Draft, WithAndWithout } from '../../api/client';
import { withoutQuery, type Lighting } from '../../api/light';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { editingWords } from '../../words/editing';
import { lightWords } from '../../words/light';
import { angle, carats, hours, percent } from '../../words/numbers';
import { w } from '../../words/words';

const o = editingWords.without;

interface Props {
  draft: Draft;
  lighting: Lighting;
  onClose: () => void;
}

/** What a tier is worth: light, window, weight and hours with it and without. */
export function WithoutDialog({ draft, lighting, onClose }: Props) {
  // An optional tier is what is left off most; else the last, which no other tier needs.
  const first = draft.tiers.findIndex((t) => t.optional);
  const [tier, setTier] = useState(first >= 0 ? first : draft.tiers.length - 1);
  const asked = useQuery(withoutQuery(draft, lighting, tier));
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{o.title}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary" sx={{ mb: 3 }}>
          {o.lead}
        </Typography>
        <PickField
          label={w.tiers.tier}
          value={tier}
          options={draft.tiers.map((t, value) => ({ value, name: t.name }))}
          onChange={setTier}
          width={140}
        />
        <Refusal error={asked.error} />
        {asked.data && !asked.isError && <Worth report={asked.data} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

function Worth({ report: r }: { report: WithAndWithout }) {
  const sides = [r.with, r.without];
  const rows: [string, string[]][] = [
    [lightWords.names.return, sides.map((s) => percent(s.light.return))],
    [lightWords.names.window, sides.map((s) => percent(s.light.window))],
    [w.stones.weight, sides.map((s) => (s.carats > 0 ? carats(s.carats) : '–'))],
    [w.diagrams.figures.facets, sides.map((s) => String(s.facets))],
    [o.hours, sides.map((s) => hours(s.hours))],
  ];
  return (
    <>
      <Sheet dense head={['', o.with, o.without]}>
        {rows.map(([name, values]) => (
          <tr key={name}>
            <td>{name}</td>
            {values.map((v, i) => (
              <td key={i} className="figure">
                {v}
              </td>
            ))}
          </tr>
        ))}
      </Sheet>
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        {lightWords.girdle.lead(angle(r.pace), r.logged)}
      </Typography>
    </>
  );
}
