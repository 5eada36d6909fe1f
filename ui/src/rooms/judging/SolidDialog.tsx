import TextField from '@mui/material/TextField';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, type Rule } from '../../api/client';
import { settingsQuery } from '../../api/queries';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { judgingWords } from '../../words/judging';
import { defaultMachine } from '../machine/useSaveSettings';
import { ProposalDialog } from '../diagrams/ProposalDialog';
import { SolidDrawn } from './SolidDrawn';

const s = judgingWords.solid;
const regular: Rule['kind'][] = [
  'tetrahedron',
  'cube',
  'octahedron',
  'dodecahedron',
  'icosahedron',
];

/** A regular solid or a prism as a diagram, drawn while it is chosen. */
export function SolidDialog({ onClose }: { onClose: () => void }) {
  const settings = useQuery(settingsQuery).data;
  const gears = settings ? defaultMachine(settings).gears : [96];
  const [rule, setRule] = useState<Rule>({ kind: 'cube', pose: 'face', sides: 6, height: 1 });
  const [gear, setGear] = useState(0);
  const [index, setIndex] = useState(1.54);
  const [name, setName] = useState('');
  const set = (change: Partial<Rule>) => setRule({ ...rule, ...change });
  const body = {
    rule,
    gear: gear || (gears.at(-1) ?? 96),
    refractiveIndex: index,
    name: name || s.kinds[rule.kind].split(',')[0]!,
  };
  const placed = useQuery({
    queryKey: ['solid', body],
    queryFn: ({ signal }) => answer(client.POST('/api/solids/rule', { body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
  const ready = !placed.isError && !placed.isPlaceholderData;
  return (
    <ProposalDialog
      title={s.title}
      lead={s.lead}
      draft={ready ? placed.data?.draft : undefined}
      error={placed.error}
      keep={s.keep}
      origin={s.origin}
      onClose={onClose}
      drawn={placed.data && <SolidDrawn draft={placed.data.draft} />}
      fields={
        <>
          <TextField
            label={s.name}
            value={name}
            onChange={(e) => setName(e.target.value)}
            fullWidth
            autoFocus
          />
          <PickField
            label={s.kind}
            value={rule.kind}
            options={s.kinds}
            onChange={(kind) => set({ kind })}
          />
          {regular.includes(rule.kind) ? (
            <PickField
              label={s.pose}
              value={rule.pose}
              options={s.poses}
              onChange={(pose) => set({ pose })}
              width={160}
            />
          ) : (
            <>
              <NumberField
                label={s.sides}
                min={3}
                max={60}
                value={rule.sides}
                onChange={(sides) => set({ sides: Math.round(sides) })}
                width={110}
              />
              <NumberField
                label={s.height}
                min={0.1}
                max={10}
                value={rule.height}
                onChange={(height) => set({ height })}
              />
            </>
          )}
          <PickField
            label={s.gear}
            value={String(body.gear)}
            options={Object.fromEntries(gears.map((g) => [String(g), String(g)]))}
            onChange={(g) => setGear(Number(g))}
            width={110}
          />
          <NumberField
            label={s.index}
            min={1.01}
            max={4}
            value={index}
            onChange={setIndex}
            width={140}
          />
        </>
      }
    />
  );
}
