import ArrowDownward from '@mui/icons-material/ArrowDownward';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import VisibilityOffOutlined from '@mui/icons-material/VisibilityOffOutlined';
import VisibilityOutlined from '@mui/icons-material/VisibilityOutlined';
import PlaylistAddCheck from '@mui/icons-material/PlaylistAddCheck';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState, type ReactNode } from 'react';
import type { DraftTier, Place, Tier } from '../../api/client';
import { Care } from '../../parts/Page';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';
import { StopPicker } from './StopPicker';
import { Margin, Settable } from './TierTable';

interface Props {
  tier: DraftTier;
  solved: Tier | undefined;
  problems: Place[];
  names: string[];
  selected: boolean;
  onSelect: () => void;
  onChange: (change: Partial<DraftTier>, at?: string) => void;
  onUp?: () => void;
  onDown?: () => void;
  onRemove: () => void;
  onPull: () => void;
  /** Looks at the stone without the tier, or with it again. */
  onOff?: () => void;
  off: boolean;
  /** What the row is dragged by. */
  handle: ReactNode;
  /** What can be done with the tier as a whole. */
  menu: ReactNode;
}

/** One tier being typed. The row in focus is the one that lights in the drawings. */
export function TierRow({
  tier: t,
  solved,
  problems,
  names,
  selected,
  onSelect,
  onChange,
  onUp,
  onDown,
  onRemove,
  onPull,
  onOff,
  off,
  handle,
  menu,
}: Props) {
  const [picking, setPicking] = useState(false);
  // What is still empty in the row that is being typed is no mistake yet.
  const empty = (field: string) => t[field as keyof DraftTier] === '';
  const mistakes = problems.filter((p) => !(selected && empty(p.field)));
  const wrong = (field: string) => mistakes.some((p) => p.field === field);
  const text = (
    field: 'name' | 'angle' | 'indexes' | 'stop' | 'note',
    label: string,
    width?: number,
  ) => (
    <TextField
      label={label}
      value={t[field]}
      onChange={(e) => onChange({ [field]: e.target.value }, field)}
      error={wrong(field)}
      sx={width ? { width, flexShrink: 0 } : { flexGrow: 1 }}
      slotProps={{
        htmlInput: {
          'aria-label': `${t.name || w.tiers.tier} ${label}`,
          'data-name': field === 'name' ? '' : undefined,
          spellCheck: field === 'note',
          autoComplete: 'off',
        },
      }}
    />
  );
  return (
    <Box
      onFocus={onSelect}
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
        {handle}
        {text('name', w.tiers.tier, 72)}
        <TextField
          select
          label={w.tiers.part}
          value={t.part}
          onChange={(e) => onChange({ part: e.target.value })}
          sx={{ width: 112, flexShrink: 0 }}
          error={wrong('part')}
          slotProps={{
            select: {
              SelectDisplayProps: { 'aria-label': `${t.name || w.tiers.tier} ${w.tiers.part}` },
            },
          }}
        >
          {Object.entries(w.tiers.parts).map(([value, name]) => (
            <MenuItem key={value} value={value}>
              {name}
            </MenuItem>
          ))}
        </TextField>
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
        </Box>
      </Box>
      {mistakes.map((p, i) => (
        <Care key={i} grave>
          {p.message}
        </Care>
      ))}
      {selected && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          {text('note', w.tiers.note)}
          <FormControlLabel
            sx={{ ml: 1 }}
            control={
              <Checkbox
                checked={t.optional}
                onChange={(e) => onChange({ optional: e.target.checked })}
              />
            }
            label={w.diagrams.optional}
          />
          {onOff && (
            <IconButton
              onClick={onOff}
              aria-pressed={off}
              aria-label={off ? editingWords.tier.on(t.name) : editingWords.tier.off(t.name)}
            >
              {off ? <VisibilityOffOutlined /> : <VisibilityOutlined />}
            </IconButton>
          )}
          <Button size="small" onClick={onPull}>
            {editingWords.pull.start(t.name)}
          </Button>
          <IconButton onClick={onUp} disabled={!onUp} aria-label={w.diagrams.up(t.name)}>
            <ArrowUpward />
          </IconButton>
          <IconButton onClick={onDown} disabled={!onDown} aria-label={w.diagrams.down(t.name)}>
            <ArrowDownward />
          </IconButton>
          <IconButton onClick={onRemove} aria-label={w.diagrams.remove(t.name)}>
            <DeleteOutlined />
          </IconButton>
          {menu}
        </Box>
      )}
      {picking && (
        <StopPicker
          tier={t}
          names={names}
          onClose={() => setPicking(false)}
          onPick={(stop) => {
            onChange({ stop });
            setPicking(false);
          }}
        />
      )}
    </Box>
  );
}
