import PlaylistAddCheck from '@mui/icons-material/PlaylistAddCheck';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { memo, useState, type ReactNode } from 'react';
import type { DraftTier, Place, Reading, Tier } from '../../../api/client';
import { Care } from '../../../parts/Page';
import { Margin, Reasons, Settable } from '../../../parts/stone/TierTable';
import { editingWords } from '../../../words/editing';
import { orderWords } from '../../../words/order';
import { w } from '../../../words/words';
import { StopPicker } from './StopPicker';
import { TierReadings } from '../../../parts/diagram/TierReadings';
import type { TierActs } from './tierActs';
import { TierTools } from './TierTools';

interface Props {
  tier: DraftTier;
  place: number;
  last: boolean;
  solved: Tier | undefined;
  problems: Place[];
  /** What the words in its fields were read as. */
  readings: Reading[];
  names: string[];
  selected: boolean;
  off: boolean;
  acts: TierActs;
  /** What the row is dragged by. */
  handle: ReactNode;
}

/** The columns of the table: handle, tier, part, angle, margin, index, stop, choosing a stop. */
export const columns = '22px 50px 34px 58px 52px minmax(0, 1fr) minmax(0, 200px) 34px';

/**
 * One tier being typed, a line high until it is opened: the row in focus is the one that lights in
 * the drawings, and shows what else there is to it.
 */
export const TierRow = memo(function TierRow(props: Props) {
  const { tier: t, solved, problems, readings, selected, off, acts } = props;
  const [picking, setPicking] = useState(false);
  // What is not typed yet, or still to be found, is no mistake.
  const mistakes = problems.filter(
    (p) => p.code !== 'stop-missing' && t[p.field as keyof DraftTier] !== '',
  );
  const wrong = (field: string) => mistakes.some((p) => p.field === field);
  const part = readings.find((r) => r.field === 'part');
  const text = (field: TextName, label: string) => (
    <TierText
      tierKey={t.key}
      name={t.name || w.tiers.tier}
      field={field}
      label={label}
      value={t[field]}
      wrong={wrong(field)}
      doubtful={readings.some((r) => r.field === field && !r.sure)}
      change={acts.change}
    />
  );
  const reasons = selected && solved && <Reasons tier={solved} />;
  return (
    <Box
      onFocus={() => acts.select(t.key)}
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        borderLeft: 4,
        borderLeftColor: selected ? 'primary.main' : 'transparent',
        pl: 1,
      }}
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: columns,
          gap: 1,
          alignItems: 'center',
          py: 0.5,
        }}
      >
        {props.handle}
        {text('name', w.tiers.tier)}
        <PartLetter part={t.part || part?.read || ''} sure={part?.sure ?? true} />
        {text('angle', `${w.tiers.angle} °`)}
        <Box sx={{ whiteSpace: 'nowrap', fontSize: '0.8125rem' }}>
          {solved && <Margin tier={solved} />}
          {solved && <Settable tier={solved} />}
        </Box>
        {text('indexes', w.tiers.indexes)}
        {text('stop', w.tiers.stop)}
        <IconButton
          onClick={() => setPicking(true)}
          aria-label={w.diagrams.pickStop(t.name)}
          sx={{ width: 34, height: 34 }}
        >
          <PlaylistAddCheck />
        </IconButton>
      </Box>
      <Box sx={{ pl: '26px' }}>
        <TierReadings
          name={t.name || w.tiers.tier}
          readings={readings}
          open={selected}
          onTake={(field, read) => acts.change(t.key, { [field]: read })}
        />
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
        {off && <strong>{editingWords.tier.leftOff}</strong>}
        {selected && (
          <Box sx={{ color: 'text.secondary' }}>
            {problems.length === 0 ? solved?.stop : mistakes.length === 0 && w.diagrams.blankTier}
            {reasons}
          </Box>
        )}
        {selected && (
          <Box
            sx={{
              display: 'flex',
              gap: 1,
              alignItems: 'center',
              flexWrap: 'wrap',
              py: 1,
              '& .MuiIconButton-root': { width: 36 },
            }}
          >
            <TierPart
              tierKey={t.key}
              name={t.name || w.tiers.tier}
              part={t.part}
              wrong={wrong('part')}
              change={acts.change}
            />
            <Box sx={{ flex: '1 1 120px', display: 'flex' }}>{text('note', w.tiers.note)}</Box>
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
      </Box>
      {picking && (
        <StopPicker
          tier={{ ...t, part: t.part || part?.read || '' }}
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
    alike(a.readings, b.readings) &&
    alike(a.names, b.names)
  );
}

/** The part of a tier in its first letter, with a sign where it is a guess. */
function PartLetter({ part, sure }: { part: string; sure: boolean }) {
  const name = w.tiers.parts[part];
  if (!name) return <span />;
  return (
    <Box
      component="span"
      role="img"
      title={name}
      aria-label={name}
      sx={{ color: sure ? 'text.secondary' : 'secondary.main', fontWeight: sure ? 400 : 600 }}
    >
      {name.charAt(0)}
      {!sure && '?'}
    </Box>
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
  doubtful,
  change,
}: FieldProps & { field: TextName; label: string; value: string; doubtful: boolean }) {
  return (
    <TextField
      // The heads of the columns are the labels; a note has none.
      label={field === 'note' ? label : undefined}
      value={value}
      onChange={(e) => change(tierKey, { [field]: e.target.value }, field)}
      error={wrong}
      placeholder={field === 'stop' ? editingWords.tier.toFind : undefined}
      fullWidth
      sx={{
        '& input': field === 'note' ? {} : { px: 1, py: 1, fontSize: fontOf[field] },
        '& .MuiOutlinedInput-notchedOutline': doubtful
          ? { borderColor: 'secondary.main', borderStyle: 'dashed' }
          : {},
        '& input::placeholder': { fontSize: '0.8125rem' },
      }}
      slotProps={{
        htmlInput: {
          className: field === 'note' || field === 'stop' ? undefined : 'figure',
          'aria-label': `${name} ${label}`,
          title: field === 'stop' || field === 'indexes' ? value : undefined,
          'data-name': field === 'name' ? '' : undefined,
          spellCheck: field === 'note',
          autoComplete: 'off',
        },
      }}
    />
  );
});

/** Sixteen indexes are seen at once. */
const fontOf: Record<TextName, string> = {
  name: '0.875rem',
  angle: '0.875rem',
  indexes: '0.75rem',
  stop: '0.8125rem',
  note: '0.875rem',
};

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
      sx={{ width: 176, flexShrink: 0 }}
      error={wrong}
      slotProps={{
        select: {
          displayEmpty: true,
          SelectDisplayProps: { 'aria-label': `${name} ${w.tiers.part}` },
        },
        inputLabel: { shrink: true },
      }}
    >
      <MenuItem value="">{editingWords.tier.partByItself}</MenuItem>
      {Object.entries(w.tiers.parts).map(([value, text]) => (
        <MenuItem key={value} value={value}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
});
