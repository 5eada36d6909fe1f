import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Draft, LeftOff, WithAndWithout } from '../../api/client';
import { withoutQuery, type Lighting } from '../../api/light';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { SideBySideSheet } from '../../parts/SideBySideSheet';
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
  const row = (name: string, of: (s: LeftOff) => string): [string, string, string] => [
    name,
    of(r.with),
    of(r.without),
  ];
  const rows = [
    row(lightWords.names.return, (s) => percent(s.light.return)),
    row(lightWords.names.window, (s) => percent(s.light.window)),
    row(w.stones.weight, (s) => (s.carats > 0 ? carats(s.carats) : '–')),
    row(w.diagrams.figures.facets, (s) => String(s.facets)),
    row(o.hours, (s) => hours(s.hours)),
  ];
  return (
    <>
      <SideBySideSheet sides={[o.with, o.without]} rows={rows} />
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        {lightWords.girdle.lead(angle(r.pace), r.logged)}
      </Typography>
    </>
  );
}
