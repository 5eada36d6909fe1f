import ArrowUpward from '@mui/icons-material/ArrowUpward';
import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Choices, StoneView } from '../../api/client';
import { dopUpsQuery } from '../../api/stones';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { dopUpWords as t } from '../../words/dopUps';

type DopUp = Choices['dopUps'][number];

interface Props {
  diagramId: string;
  dopUps: DopUp[];
  stone: StoneView | undefined;
  onChange: (dopUps: DopUp[]) => void;
}

/** A solid that is held by one face after the other: which faces up, in order, proposed so that nothing is dialled too steep. */
export function DopUps({ diagramId, dopUps, stone, onChange }: Props) {
  const [steepest, setSteepest] = useState(90);
  const [wanted, setWanted] = useState(false);
  const on = dopUps.length > 0 || wanted;
  const found = useQuery({ ...dopUpsQuery(diagramId, steepest), enabled: on });
  const turn = (to: boolean) => {
    setWanted(to);
    if (!to) onChange([]);
  };
  const earlier = (i: number) =>
    onChange(dopUps.map((d, k) => (k === i - 1 ? dopUps[i]! : k === i ? dopUps[i - 1]! : d)));
  return (
    <Box role="group" aria-label={t.head} sx={{ my: 4 }}>
      <FormControlLabel
        control={<Switch checked={on} onChange={(_, to) => turn(to)} />}
        label={t.several}
      />
      {on && (
        <>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, alignItems: 'center', my: 2 }}>
            <NumberField
              label={`${t.steepest} (°)`}
              min={1}
              max={90}
              value={steepest}
              onChange={setSteepest}
              width={150}
            />
            <Button
              variant="outlined"
              disabled={!found.data || found.isFetching}
              onClick={() => onChange(found.data!.dopUps)}
            >
              {found.data ? t.take(found.data.dopUps.length) : t.propose}
            </Button>
            {stone && <OneMore stone={stone} dopUps={dopUps} onChange={onChange} />}
          </Box>
          <Refusal error={found.error} />
          {dopUps.length === 0 && <Typography color="text.secondary">{t.none}</Typography>}
          {dopUps.map((d, i) => (
            <Box key={nameOf(d)} sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
              <Typography sx={{ width: 160 }}>{t.one(i + 1, nameOf(d))}</Typography>
              <IconButton
                aria-label={t.earlier(i + 1)}
                disabled={i === 0}
                onClick={() => earlier(i)}
              >
                <ArrowUpward />
              </IconButton>
              <IconButton
                aria-label={t.remove(i + 1)}
                onClick={() => onChange(dopUps.filter((_, k) => k !== i))}
              >
                <Close />
              </IconButton>
            </Box>
          ))}
        </>
      )}
    </Box>
  );
}

const nameOf = (d: DopUp): string => t.name(d.tier, d.index);

/** Picks a facet that faces up in one more dop-up. */
function OneMore({
  stone,
  dopUps,
  onChange,
}: Pick<Props, 'dopUps' | 'onChange'> & { stone: StoneView }) {
  const left = stone.facets
    .map((f) => ({ tier: stone.tiers[f.tier]!.name, index: f.index }))
    .filter((f) => !dopUps.some((d) => nameOf(d) === nameOf(f)));
  return (
    <PickField
      label={t.add}
      value=""
      options={left.map((f) => ({ value: nameOf(f), name: nameOf(f) }))}
      onChange={(name) => onChange([...dopUps, left.find((f) => nameOf(f) === name)!])}
      width={190}
    />
  );
}
