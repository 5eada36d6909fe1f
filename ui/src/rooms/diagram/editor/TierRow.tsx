import PlaylistAddCheck from '@mui/icons-material/PlaylistAddCheck';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { memo, useState, type ReactNode } from 'react';
import type { DraftTier, Place, Tier } from '../../../api/client';
import { Care } from '../../../parts/Page';
import { editingWords } from '../../../words/editing';
import { orderWords } from '../../../words/order';
import { w } from '../../../words/words';
import { StopPicker } from './StopPicker';
import type { TierActs } from './tierActs';
import { Margin, Reasons, Settable } from '../../../parts/stone/TierTable';
import { TierTools } from './TierTools';

interface Props {
  tier: DraftTier;
  place: number;
  last: boolean;
  solved: Tier | undefined;
  problems: Place[];
  names: string[];
  selected: boolean;
  off: boolean;
  acts: TierActs;
  /** What the row is dragged by. */
  handle: ReactNode;
}

/** One tier being typed. The row in focus is the one that lights in the drawings. */
export const TierRow = memo(function TierRow(props: Props) {
  const { tier: t, solved, problems, selected, off, acts } = props;
  const [picking, setPicking] = useState(false);
  // What is still empty in the row that is being typed is no mistake yet.
  const empty = (field: string) => t[field as keyof DraftTier] === '';
  const mistakes = problems.filter((p) => !(selected && empty(p.field)));
  const wrong = (field: string) => mistakes.some((p) => p.field === field);
  const text = (field: TextName, label: string, width?: number) => (
    <TierText
      tierKey={t.key}
      name={t.name || w.tiers.tier}
      field={field}
      label={label}
      value={t[field]}
      wrong={wrong(field)}
      width={width}
      change={acts.change}
    />
  );
  return (
    <Box
      onFocus={() => acts.select(t.key)}
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        borderLeft: 4,
        borderLeftColor: selected ? 'primary.main' : 'transparent',
        pl: 2,
        py: 2,
        display: 'grid',
        gap: 2,
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        {props.handle}
        {text('name', w.tiers.tier, 72)}
        <TierPart
          tierKey={t.key}
          name={t.name || w.tiers.tier}
          part={t.part}
          wrong={wrong('part')}
          change={acts.change}
        />
        {text('angle', `${w.tiers.angle} °`, 86)}
        <Box sx={{ width: 86, flexShrink: 0 }}>
          {solved && <Margin tier={solved} />}
          {solved && <Settable tier={solved} />}
        </Box>
        {text('indexes', w.tiers.indexes)}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Box sx={{ flex: '1 1 45%', display: 'flex' }}>{text('stop', w.tiers.stop)}</Box>
        <IconButton onClick={() => setPicking(true)} aria-label={w.diagrams.pickStop(t.name)}>
          <PlaylistAddCheck />
        </IconButton>
        <Box sx={{ flex: '1 1 45%', color: 'text.secondary' }}>
          {off && <strong>{editingWords.tier.leftOff} · </strong>}
          {problems.length === 0 ? solved?.stop : mistakes.length === 0 && w.diagrams.blankTier}
          {selected && solved && <Reasons tier={solved} />}
        </Box>
      </Box>
      {mistakes.map((p, i) => (
        <Care key={i} grave>
          {p.message}
          {mendable.has(p.code) && (
            <Button size="small" sx={{ ml: 2 }} onClick={acts.mend}>
              {orderWords.mend}
            </Button>
          )}
        </Care>
      ))}
      {selected && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          {text('note', w.tiers.note)}
          <TierTools
            tierKey={t.key}
            name={t.name}
            place={props.place}
            last={props.last}
            optional={t.optional}
            off={off}
            acts={acts}
          />
        </Box>
      )}
      {picking && (
        <StopPicker
          tier={t}
          names={props.names}
          onClose={() => setPicking(false)}
          onPick={(stop) => {
            acts.change(t.key, { stop });
            setPicking(false);
          }}
        />
      )}
    </Box>
  );
}, sameRow);

/** What another order may mend. */
const mendable = new Set(['meet-missing', 'centre-unknown', 'girdle-missing', 'width-missing']);

/** What of a solved tier a row shows. */
const shownOf = (t: Tier | undefined) =>
  t && [t.stop, t.margin, t.judgement, t.below, t.above, t.outOfReach];

function sameRow(a: Props, b: Props): boolean {
  const alike = (x: unknown, y: unknown) => JSON.stringify(x) === JSON.stringify(y);
  return (
    a.tier === b.tier &&
    a.place === b.place &&
    a.last === b.last &&
    a.selected === b.selected &&
    a.off === b.off &&
    a.handle === b.handle &&
    alike(shownOf(a.solved), shownOf(b.solved)) &&
    alike(a.problems, b.problems) &&
    alike(a.names, b.names)
  );
}

type TextName = 'name' | 'angle' | 'indexes' | 'stop' | 'note';

interface FieldProps {
  tierKey: string;
  /** What the tier is called for those who hear the field's name. */
  name: string;
  wrong: boolean;
  change: TierActs['change'];
}

/** A field of a tier as it is typed. A letter in one field leaves the others as they are. */
const TierText = memo(function TierText({
  tierKey,
  name,
  field,
  label,
  value,
  wrong,
  width,
  change,
}: FieldProps & { field: TextName; label: string; value: string; width?: number }) {
  return (
    <TextField
      label={label}
      value={value}
      onChange={(e) => change(tierKey, { [field]: e.target.value }, field)}
      error={wrong}
      sx={width ? { width, flexShrink: 0 } : { flexGrow: 1 }}
      slotProps={{
        htmlInput: {
          'aria-label': `${name} ${label}`,
          'data-name': field === 'name' ? '' : undefined,
          spellCheck: field === 'note',
          autoComplete: 'off',
        },
      }}
    />
  );
});

const TierPart = memo(function TierPart({
  tierKey,
  name,
  part,
  wrong,
  change,
}: FieldProps & { part: string }) {
  return (
    <TextField
      select
      label={w.tiers.part}
      value={part}
      onChange={(e) => change(tierKey, { part: e.target.value })}
      sx={{ width: 112, flexShrink: 0 }}
      error={wrong}
      slotProps={{
        select: { SelectDisplayProps: { 'aria-label': `${name} ${w.tiers.part}` } },
      }}
    >
      {Object.entries(w.tiers.parts).map(([value, text]) => (
        <MenuItem key={value} value={value}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
});
