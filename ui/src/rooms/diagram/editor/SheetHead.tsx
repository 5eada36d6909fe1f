import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { memo, useState } from 'react';
import Button from '@mui/material/Button';
import type { Draft, Place } from '../../../api/client';
import { fieldsQuery } from '../../../api/settings';
import { w } from '../../../words/words';

interface Props {
  draft: Draft;
  problems: Place[];
  set: (next: (d: Draft) => Draft, at?: string) => void;
}

type TextName = Exclude<keyof Draft, 'tiers'>;

/** The head of the sheet: what stands above the tiers. */
export const SheetHead = memo(function SheetHead({ draft, problems, set }: Props) {
  const fields = useQuery(fieldsQuery);
  // What is out of the ordinary is never hidden.
  const [more, setMore] = useState(draft.firstSide !== 'pavilion' || draft.indexing !== 'dialled');
  const wrong = (name: TextName) => problems.find((p) => p.tier < 0 && p.field === name)?.message;
  const field = (
    name: TextName,
    label: string,
    width: number | string,
    options?: Record<string, string>,
  ) => (
    <TextField
      key={name}
      select={options !== undefined}
      label={label}
      value={draft[name]}
      onChange={(e) => set((d) => ({ ...d, [name]: e.target.value }), options ? '' : name)}
      error={draft.tiers.length > 0 && wrong(name) !== undefined}
      helperText={draft.tiers.length > 0 ? wrong(name) : undefined}
      sx={{ width }}
      slotProps={{ inputLabel: name === 'width' ? { shrink: true } : {} }}
    >
      {options &&
        Object.entries(options).map(([value, text]) => (
          <MenuItem key={value} value={value}>
            {text}
          </MenuItem>
        ))}
    </TextField>
  );
  const outlines = Object.fromEntries(
    (fields.data?.outlines ?? [draft.outline]).map((o) => [o, o]),
  );
  const sides = { pavilion: w.tiers.parts.pavilion!, crown: w.tiers.parts.crown! };
  return (
    <Box
      role="group"
      aria-label={w.diagrams.sheet}
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, mb: 3, alignItems: 'flex-start' }}
    >
      {field('name', w.diagrams.sheetName, 168)}
      {field('gear', w.diagrams.gear, 72)}
      {field('refractiveIndex', w.diagrams.index, 126)}
      {field('width', w.diagrams.plannedWidth, 158)}
      {field('outline', w.diagrams.outline, 120, outlines)}
      {more ? (
        <>
          {field('firstSide', w.diagrams.firstSide, 140, sides)}
          {field('indexing', w.diagrams.indexing, 260, w.diagrams.indexings)}
          {field('designer', w.diagrams.designer, 200)}
          {field('source', w.diagrams.source, 200)}
          {field('date', w.diagrams.date, 140)}
          {field('licence', w.diagrams.licence, 140)}
          {field('note', w.diagrams.notes, '100%')}
        </>
      ) : (
        <Button variant="text" onClick={() => setMore(true)}>
          {w.diagrams.moreHead}
        </Button>
      )}
    </Box>
  );
}, sameHead);

/** The head is drawn anew only where something in it has changed: typing in a tier is not. */
function sameHead(a: Props, b: Props): boolean {
  const head = ({ draft, problems }: Props) => [
    { ...draft, tiers: draft.tiers.length > 0 },
    problems.filter((p) => p.tier < 0),
  ];
  return a.set === b.set && JSON.stringify(head(a)) === JSON.stringify(head(b));
}
