import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { StoneLine } from '../../api/client';
import { recutSo, type RecutAsked, type RecutWay, type ReturnedStone } from '../../api/recuts';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { Row } from '../../parts/Row';
import type { Side } from '../../parts/stone/geometry';
import { recutWords as t } from '../../words/recut';
import { w } from '../../words/words';

interface Props {
  asked: RecutAsked;
  way: RecutWay;
  /** The ID of the other diagram, where that is the way. */
  diagram: string;
  returned: ReturnedStone;
  stone: StoneLine | undefined;
  /** The side that is cut first unless the cutter says otherwise. */
  side: Side;
  onPlanned: () => void;
}

/** The chosen way becomes a work: which side first, what of the rest is polished. */
export function PlanIt({ asked, way, diagram, returned, stone, side, onPlanned }: Props) {
  const navigate = useNavigate();
  const [firstSide, setFirstSide] = useState(side);
  const [polishes, setPolishes] = useState(false);
  const [from, setFrom] = useState(returned.passes.at(-1)?.id ?? '');
  const [name, setName] = useState('');
  const [why, setWhy] = useState('');
  const plan = useMutation(recutSo);
  const keep = () =>
    plan.mutate(
      {
        asked,
        way: way.way,
        diagram: way.way === 'another' ? diagram : '',
        firstSide,
        polishFrom: polishes ? from : '',
        name: stone ? '' : name,
        why,
        version: stone?.version ?? 0,
      },
      {
        onSuccess: (made) => {
          onPlanned();
          void navigate(`/stones/${made.id}`);
        },
      },
    );
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      <Row>
        <PickField
          label={t.first}
          value={firstSide}
          options={(['crown', 'pavilion'] as const).map((value) => ({
            value,
            name: w.tiers.parts[value]!,
          }))}
          onChange={(v) => setFirstSide(v as Side)}
        />
        <FormControlLabel
          control={<Switch checked={polishes} onChange={(_, on) => setPolishes(on)} />}
          label={t.polishRest}
        />
        {polishes && (
          <PickField
            label={t.from}
            value={from}
            options={returned.passes.map((p) => ({ value: p.id, name: p.name }))}
            onChange={setFrom}
          />
        )}
      </Row>
      <Row>
        {!stone && (
          <TextField
            label={t.name}
            placeholder={t.nameExample}
            value={name}
            onChange={(e) => setName(e.target.value)}
            sx={{ flex: '1 1 200px' }}
          />
        )}
        <TextField
          label={t.why}
          placeholder={t.whyExample}
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          sx={{ flex: '1 1 200px' }}
        />
      </Row>
      <Refusal error={plan.error} />
      <Button
        variant="contained"
        disabled={plan.isPending || (!stone && name.trim() === '')}
        onClick={keep}
        sx={{ justifySelf: 'start' }}
      >
        {t.keep}
      </Button>
    </Box>
  );
}
