import TextField from '@mui/material/TextField';
import type { PieceForm } from '../../api/rough';
import { PickField } from '../../parts/fields/PickField';
import { Row } from '../../parts/Row';
import { roughWords as r } from '../../words/rough';
import { w } from '../../words/words';

/** A weight as it is typed, and its unit. */
export function Weight({
  draft,
  set,
}: {
  draft: Pick<PieceForm, 'weighed' | 'unit'>;
  set: (change: Partial<PieceForm>) => void;
}) {
  return (
    <Row>
      <TextField
        label={r.adding.weight}
        value={draft.weighed}
        onChange={(e) => set({ weighed: e.target.value })}
        slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off' } }}
        sx={{ width: 150 }}
      />
      <PickField
        label={r.adding.unit}
        value={draft.unit}
        options={{ ct: w.units.ct, g: w.units.g }}
        onChange={(unit) => set({ unit: unit as PieceForm['unit'] })}
        width={100}
      />
    </Row>
  );
}
