import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Usual } from '../../api/client';
import { beginFreehand } from '../../api/freehand';
import { ranges } from '../../api/ranges';
import { usualQuery } from '../../api/settings';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { Await, PageHead } from '../../parts/Page';
import { freehandWords as t } from '../../words/freehand';
import { w } from '../../words/words';

/** What is known of a stone before it is cut freehand. */
export function NewFreehandRoom() {
  const usual = useQuery(usualQuery);
  return <Await query={usual}>{(u) => <Begin usual={u} />}</Await>;
}

function Begin({ usual }: { usual: Usual }) {
  const [name, setName] = useState('');
  const [material, setMaterial] = useState(usual.material);
  const [width, setWidth] = useState(usual.width);
  const [gear, setGear] = useState(String(usual.gear));
  const { readable, report } = useReadable();
  const navigate = useNavigate();
  const begin = useMutation(beginFreehand);
  return (
    <>
      <PageHead title={t.title}>
        <Button
          variant="contained"
          disabled={name.trim() === '' || !readable || begin.isPending}
          onClick={() =>
            begin.mutate(
              { name: name.trim(), material, width, gear: Number(gear) },
              { onSuccess: (d) => void navigate(`/freehand/${d.id}`) },
            )
          }
        >
          {t.begin}
        </Button>
      </PageHead>
      <FormFields value={report}>
        <Box sx={{ p: 6, display: 'grid', gap: 4, maxWidth: 480 }}>
          <Typography>{t.lead}</Typography>
          <TextField label={t.name} value={name} onChange={(e) => setName(e.target.value)} />
          <MaterialField label={t.material} value={material} onChange={setMaterial} width={300} />
          <NumberField
            label={t.width}
            unit={w.units.mm}
            {...ranges.BeginFreehandRequest.width}
            value={width}
            onChange={setWidth}
            help={t.widthHelp}
            width={300}
          />
          <PickField
            label={t.gear}
            value={gear}
            options={Object.fromEntries(usual.gears.map((g) => [String(g), String(g)]))}
            onChange={setGear}
            width={300}
          />
          <Refusal error={begin.error} />
        </Box>
      </FormFields>
    </>
  );
}
