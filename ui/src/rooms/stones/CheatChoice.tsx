import Box from '@mui/material/Box';
import type { Choices } from '../../api/client';
import { NumbersField } from '../../parts/fields/NumbersField';
import { PickField } from '../../parts/fields/PickField';
import { dopUpWords as t } from '../../words/dopUps';

interface Props {
  cheats: Choices['cheats'];
  gear: number;
  onChange: (c: Choices['cheats']) => void;
}

/** Which tooth a facet between teeth is dialled from: a cheat may go further than half a tooth on purpose. */
export function CheatChoice({ cheats, gear, onChange }: Props) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mt: 3 }}>
      <PickField
        label={t.from}
        value={cheats.from}
        options={t.froms}
        onChange={(from) => onChange({ ...cheats, from })}
        width={210}
      />
      <NumbersField
        label={t.skip}
        value={cheats.skip}
        min={1}
        max={gear}
        most={60}
        help={t.skipHelp}
        bad={t.badSkip}
        onChange={(skip) => onChange({ ...cheats, skip: skip.map(Math.round) })}
        width={280}
      />
    </Box>
  );
}
