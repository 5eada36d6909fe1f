import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Rule, Usual } from '../../api/client';
import { ranges } from '../../api/ranges';
import { usualQuery } from '../../api/settings';
import { ruleQuery } from '../../api/solving';
import { NumberField } from '../../parts/fields/NumberField';
import { numbers, PickField } from '../../parts/fields/PickField';
import { solidWords } from '../../words/solids';
import { ProposalDialog } from './ProposalDialog';
import { SolidDrawn } from '../../parts/stone/SolidDrawn';

const s = solidWords;
const regular: Rule['kind'][] = [
  'tetrahedron',
  'cube',
  'octahedron',
  'dodecahedron',
  'icosahedron',
];

/** A regular solid or a prism as a diagram, drawn while it is chosen. */
export function SolidDialog({ onClose }: { onClose: () => void }) {
  const usual = useQuery(usualQuery).data;
  return usual && <RuledSolid usual={usual} onClose={onClose} />;
}

function RuledSolid({ usual, onClose }: { usual: Usual; onClose: () => void }) {
  const [rule, setRule] = useState<Rule>({ kind: 'cube', pose: 'face', sides: 6, height: 1 });
  const [gear, setGear] = useState(usual.gear);
  const [index, setIndex] = useState(usual.refractiveIndex);
  const [name, setName] = useState('');
  const [ease, setEase] = useState({ acrossMM: 16, edgeMM: 0, cornerMM: 0 });
  const set = (change: Partial<Rule>) => setRule({ ...rule, ...change });
  const body = {
    rule,
    gear,
    refractiveIndex: index,
    ...ease,
    name: name || s.kinds[rule.kind].split(',')[0]!,
  };
  const placed = useQuery(ruleQuery(body));
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
                {...ranges.Rule.sides}
                value={rule.sides}
                whole
                onChange={(sides) => set({ sides })}
                width={110}
              />
              <NumberField
                label={s.height}
                {...ranges.Rule.height}
                value={rule.height}
                onChange={(height) => set({ height })}
              />
            </>
          )}
          <PickField
            label={s.gear}
            value={gear}
            options={numbers(usual.gears)}
            onChange={setGear}
            width={110}
          />
          <NumberField
            label={s.index}
            {...ranges.RuleRequest.refractiveIndex}
            value={index}
            onChange={setIndex}
            width={140}
          />
          {(['acrossMM', 'edgeMM', 'cornerMM'] as const).map((key) => (
            <NumberField
              key={key}
              label={s.ease[key]}
              unit="mm"
              {...ranges.RuleRequest[key]}
              value={ease[key]}
              onChange={(v) => setEase({ ...ease, [key]: v })}
              width={180}
            />
          ))}
        </>
      }
    />
  );
}
