import Add from '@mui/icons-material/Add';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { Assessment, Material } from '../../api/client';
import { kitWords } from '../../words/kit';
import { lapWords as l } from '../../words/laps';
import { freshID } from '../freshID';
import { KitField } from '../kit/KitField';
import { Sheet } from '../Sheet';
import { polishOf, toggled, usesWithout, withoutOf, type Laps } from './lapUse';

interface Props {
  head: string;
  laps: Laps;
  /** The tiers of a plan; habits know only groups. */
  tiers?: Assessment['laps'];
  /** What is polished. Habits leave lap and compound of the last pass to it. */
  material?: Material;
  onChange: (change: Partial<Laps>) => void;
  /** What else is chosen of them. */
  children?: ReactNode;
}

const emptyPass = { name: '', lap: '', compound: '', lapItem: '', compoundItem: '' };

/** The passes in order, each with its lap, and who goes without some of them. */
export function LapChoices({ head, laps, tiers, material, onChange, children }: Props) {
  const { passes, uses } = laps;
  const set = (i: number, change: Partial<Laps['passes'][number]>) =>
    onChange({ passes: passes.map((p, k) => (k === i ? { ...p, ...change } : p)) });
  const earlier = (i: number) => {
    const next = [...passes];
    next.splice(i - 1, 0, ...next.splice(i, 1));
    onChange({ passes: next });
  };
  const last = passes.length - 1;
  const polish = passes[last];
  const kit = material && [material.polishLap, material.polishCompound].filter(Boolean).join(', ');
  const unlike =
    material && (polish?.lap !== material.polishLap || polish.compound !== material.polishCompound);
  return (
    <Box role="group" aria-label={head} sx={{ my: 4 }}>
      <Typography variant="h3" gutterBottom sx={{ mb: 3 }}>
        {head}
      </Typography>
      {passes.map((p, i) => (
        <Box key={p.id} sx={{ display: 'flex', gap: 2, mb: 2, alignItems: 'center' }}>
          <TextField
            label={`${l.pass} ${i + 1}`}
            value={p.name}
            onChange={(e) => set(i, { name: e.target.value })}
            sx={{ flex: 2 }}
          />
          <KitField
            label={l.lap}
            kind="lap"
            text={p.lap}
            item={p.lapItem}
            placeholder={!material && i === last ? l.byMaterial : ''}
            onChange={(lap, lapItem) => set(i, { lap, lapItem })}
          />
          <KitField
            label={l.compound}
            kind="compound"
            text={p.compound}
            item={p.compoundItem}
            onChange={(compound, compoundItem) => set(i, { compound, compoundItem })}
            flex={1.4}
          />
          <IconButton disabled={i === 0} onClick={() => earlier(i)} aria-label={l.earlier(p.name)}>
            <ArrowUpward />
          </IconButton>
          <IconButton
            disabled={passes.length === 1}
            onClick={() =>
              onChange({
                passes: passes.filter((_, k) => k !== i),
                uses: usesWithout(uses, p.id),
              })
            }
            aria-label={l.remove(p.name)}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
      {material && kit && unlike && (
        <Typography color="text.secondary">
          {material.polishTrials > 0
            ? kitWords.polish.proposed(material.name, kit, material.polishTrials)
            : l.usual(material.name, kit)}{' '}
          <Button size="small" onClick={() => set(last, polishOf(material))}>
            {l.use}
          </Button>
        </Typography>
      )}
      <Button
        startIcon={<Add />}
        // A pass keeps its name for good: ticks carry it.
        disabled={passes.length >= 12}
        onClick={() =>
          onChange({
            passes: [...passes, { ...emptyPass, id: freshID(passes, 'pass') }],
          })
        }
      >
        {l.add}
      </Button>
      <Uses laps={laps} tiers={tiers} onChange={(next) => onChange({ uses: next })} />
      {children}
    </Box>
  );
}

type Group = Laps['uses'][number]['group'];
const groups: Group[] = ['pavilion', 'girdle', 'crown', 'table'];

/** Which part gets which pass, tier by tier on request. */
function Uses({
  laps,
  tiers,
  onChange,
}: {
  laps: Laps;
  tiers: Assessment['laps'] | undefined;
  onChange: (uses: Laps['uses']) => void;
}) {
  const [byTier, setByTier] = useState(laps.uses.some((u) => u.tier !== ''));
  const there = tiers ? groups.filter((g) => tiers.some((t) => t.group === g)) : groups;
  const rows = there.flatMap((group) => [
    { group, tier: '' },
    ...(byTier ? (tiers ?? []).filter((t) => t.group === group) : []),
  ]);
  return (
    <Box sx={{ mt: 3 }}>
      <Typography sx={{ fontWeight: 600 }}>{l.uses}</Typography>
      <Typography color="text.secondary" variant="body2" sx={{ mb: 1 }}>
        {l.usesLead}
      </Typography>
      <Sheet dense head={[l.part, ...laps.passes.map((p, i) => p.lap || p.name || String(i + 1))]}>
        {rows.map(({ group, tier }) => {
          const without = withoutOf(laps.uses, group, tier);
          const who = tier || l.groups[group];
          return (
            <tr key={group + tier}>
              <Box component="td" sx={tier ? { pl: 4 } : { fontWeight: 600 }}>
                {who}
              </Box>
              {laps.passes.map((p) => (
                <td key={p.id}>
                  <Checkbox
                    size="small"
                    checked={!without.includes(p.id)}
                    // One pass is left to everybody.
                    disabled={
                      !without.includes(p.id) &&
                      laps.passes.every((o) => o.id === p.id || without.includes(o.id))
                    }
                    onChange={() => onChange(toggled(laps, group, tier, p.id))}
                    slotProps={{ input: { 'aria-label': l.gets(who, p.name) } }}
                    sx={{ p: 0.5 }}
                  />
                </td>
              ))}
            </tr>
          );
        })}
      </Sheet>
      {tiers && !byTier && (
        <Button size="small" onClick={() => setByTier(true)}>
          {l.tiers}
        </Button>
      )}
    </Box>
  );
}
