import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { Diagram, Material } from '../../api/client';
import { diagramsQuery, materialsQuery } from '../../api/queries';
import { PickField } from '../../parts/PickField';
import { Await, Empty, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { Thumbnail } from '../../parts/Thumbnail';
import { parseNumber, ratio } from '../../words/numbers';
import { libraryWords as l } from '../../words/library';
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { useDiagramActions } from './actions';
import { SolidDialog } from '../judging/SolidDialog';
import { QuickDesign } from './QuickDesign';

export function LibraryRoom() {
  const diagrams = useQuery(diagramsQuery);
  const actions = useDiagramActions();
  const navigate = useNavigate();
  const [designing, setDesigning] = useState<'quick' | 'solid' | null>(null);
  const openNew = () =>
    actions.create.mutate(undefined, {
      onSuccess: (d) => void navigate(`/diagrams/${d.id}?edit=1`),
    });
  return (
    <>
      <PageHead title={w.diagrams.title}>
        <Button component={Link} to="/diagrams/import">
          {l.bringIn}
        </Button>
        <Button onClick={() => setDesigning('quick')}>{l.quick.open}</Button>
        <Button onClick={() => setDesigning('solid')}>{judgingWords.solid.open}</Button>
        <Button variant="contained" onClick={openNew}>
          {w.diagrams.new}
        </Button>
      </PageHead>
      <Box sx={{ px: 6 }}>
        <Refusal error={actions.create.error} />
      </Box>
      {designing === 'quick' && <QuickDesign onClose={() => setDesigning(null)} />}
      {designing === 'solid' && <SolidDialog onClose={() => setDesigning(null)} />}
      <Await query={diagrams}>{(list) => <Library list={list} onCreate={openNew} />}</Await>
    </>
  );
}

interface Filter {
  q: string;
  outline: string;
  gear: string;
  from: string;
  to: string;
  /** A material in which the pavilion keeps its light. */
  suits: string;
  ratioFrom: string;
  ratioTo: string;
  level: string;
  /** 1 where the machine must be able to cut it as it is. */
  cuttable: string;
  sort: string;
}

const noFilter: Filter = {
  q: '',
  outline: '',
  gear: '',
  from: '',
  to: '',
  suits: '',
  ratioFrom: '',
  ratioTo: '',
  level: '',
  cuttable: '',
  sort: '',
};

function Library({ list, onCreate }: { list: Diagram[]; onCreate: () => void }) {
  const [params, keep] = useSearchParams();
  // The fields hold the filter; the address only remembers it. It follows too late to type into.
  const [filter, setFilter] = useState<Filter>(() => ({
    ...noFilter,
    ...Object.fromEntries(params),
  }));
  const change = (next: Filter) => {
    setFilter(next);
    keep(
      Object.entries(next).filter(([, v]) => v),
      { replace: true },
    );
  };
  const set = (name: keyof Filter, value: string) => change({ ...filter, [name]: value });
  const materials = useQuery(materialsQuery).data ?? [];
  const suits = materials.find((m) => m.name === filter.suits);
  const found = list.filter((d) => fits(d, filter, suits)).sort(orders[filter.sort] ?? orders.name);
  const outlines = [...new Set(list.map((d) => d.draft.outline))].sort();
  const gears = [...new Set(list.map((d) => d.draft.gear))].sort((a, b) => Number(a) - Number(b));
  return (
    <>
      <Box sx={{ display: 'flex', gap: 3, px: 6, py: 3, flexWrap: 'wrap' }} role="search">
        <TextField
          label={w.diagrams.search}
          value={filter.q}
          onChange={(e) => set('q', e.target.value)}
          sx={{ flexGrow: 1, maxWidth: 360 }}
        />
        <Choice
          label={w.diagrams.outline}
          value={filter.outline}
          values={outlines}
          onChange={(v) => set('outline', v)}
        />
        <Choice
          label={w.diagrams.gear}
          value={filter.gear}
          values={gears}
          onChange={(v) => set('gear', v)}
        />
        <TextField
          label={w.diagrams.facetsFrom}
          value={filter.from}
          onChange={(e) => set('from', e.target.value)}
          sx={{ width: 116 }}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <TextField
          label={w.diagrams.facetsTo}
          value={filter.to}
          onChange={(e) => set('to', e.target.value)}
          sx={{ width: 90 }}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <Box sx={{ flexBasis: '100%', height: 0 }} />
        <Choice
          label={l.filter.suits}
          value={filter.suits}
          values={materials.map((m) => m.name)}
          onChange={(v) => set('suits', v)}
        />
        <TextField
          label={l.filter.ratioFrom}
          value={filter.ratioFrom}
          onChange={(e) => set('ratioFrom', e.target.value)}
          sx={{ width: 110 }}
        />
        <TextField
          label={w.diagrams.facetsTo}
          value={filter.ratioTo}
          onChange={(e) => set('ratioTo', e.target.value)}
          sx={{ width: 90 }}
        />
        <Choice
          label={l.filter.difficulty}
          value={filter.level}
          values={Object.keys(l.levels)}
          onChange={(v) => set('level', v)}
        />
        <PickField
          label={l.filter.sort}
          value={filter.sort || 'name'}
          options={l.filter.sorts}
          onChange={(v) => set('sort', v === 'name' ? '' : v)}
          width={210}
        />
        <FormControlLabel
          control={
            <Checkbox
              checked={filter.cuttable !== ''}
              onChange={(e) => set('cuttable', e.target.checked ? '1' : '')}
            />
          }
          label={l.filter.cuttable}
        />
      </Box>
      {found.length === 0 ? (
        <Empty text={w.diagrams.nothing}>
          <Box sx={{ display: 'flex', gap: 2 }}>
            <Button onClick={() => change(noFilter)}>{w.diagrams.clear}</Button>
            <Button onClick={onCreate}>{w.diagrams.new}</Button>
          </Box>
        </Empty>
      ) : (
        <Box
          component="ul"
          sx={{
            listStyle: 'none',
            m: 0,
            mx: 6,
            p: 0,
            display: 'grid',
            gridTemplateColumns: 'repeat(auto-fill, minmax(340px, 1fr))',
            borderTop: 1,
            borderLeft: 1,
            borderColor: 'divider',
          }}
        >
          {found.map((d) => (
            <Sheet key={d.id} diagram={d} />
          ))}
        </Box>
      )}
    </>
  );
}

function Choice(props: {
  label: string;
  value: string;
  values: string[];
  onChange: (v: string) => void;
}) {
  return (
    <TextField
      select
      label={props.label}
      value={props.value}
      onChange={(e) => props.onChange(e.target.value)}
      sx={{ minWidth: 130 }}
      slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
    >
      <MenuItem value="">{w.diagrams.any}</MenuItem>
      {props.values.map((v) => (
        <MenuItem key={v} value={v}>
          {v}
        </MenuItem>
      ))}
    </TextField>
  );
}

const orders: Record<string, (a: Diagram, b: Diagram) => number> & {
  name: (a: Diagram, b: Diagram) => number;
} = {
  name: (a, b) => a.draft.name.localeCompare(b.draft.name),
  facets: (a, b) => (a.facts?.facets ?? 0) - (b.facts?.facets ?? 0),
  ratio: (a, b) => (a.facts?.lengthWidth ?? 0) - (b.facts?.lengthWidth ?? 0),
  difficulty: (a, b) =>
    (a.judged?.difficulty.points ?? Infinity) - (b.judged?.difficulty.points ?? Infinity),
};

function fits(d: Diagram, filter: Filter, suits: Material | undefined): boolean {
  const words = filter.q.toLowerCase().split(/\s+/).filter(Boolean);
  const text = [d.draft.name, d.draft.designer, d.draft.outline, d.draft.note, d.draft.source]
    .join(' ')
    .toLowerCase();
  const facets = d.facts?.facets ?? 0;
  const lengthWidth = Math.round((d.facts?.lengthWidth ?? 0) * 1000) / 1000;
  const from = parseNumber(filter.from) ?? 0;
  const to = parseNumber(filter.to) ?? Infinity;
  return (
    words.every((word) => text.includes(word)) &&
    (!filter.outline || d.draft.outline === filter.outline) &&
    (!filter.gear || d.draft.gear === filter.gear) &&
    facets >= from &&
    facets <= to &&
    (!suits || (d.judged?.shallowest ?? 0) > suits.criticalAngle.high) &&
    (!filter.level || d.judged?.level === filter.level) &&
    (!filter.cuttable || d.judged?.cuttable === true) &&
    lengthWidth >= (parseNumber(filter.ratioFrom) ?? 0) &&
    lengthWidth <= (parseNumber(filter.ratioTo) ?? Infinity)
  );
}

function Sheet({ diagram: d }: { diagram: Diagram }) {
  const actions = useDiagramActions();
  const name = d.draft.name || w.diagrams.noName;
  return (
    <Box
      component="li"
      sx={{
        borderRight: 1,
        borderBottom: 1,
        borderColor: 'divider',
        p: 3,
        '&:hover': { backgroundColor: 'background.paper' },
      }}
    >
      <Box
        component={Link}
        to={`/diagrams/${d.id}`}
        sx={{ color: 'text.primary', textDecoration: 'none', display: 'block' }}
      >
        <Box sx={{ display: 'flex', justifyContent: 'center' }}>
          <Thumbnail picture={d.picture} size={150} />
        </Box>
        <Typography variant="h2" noWrap>
          {name}
        </Typography>
        <Typography color="text.secondary">
          {d.facts
            ? [
                d.facts.outline,
                w.diagrams.teeth(d.facts.gear),
                w.diagrams.facets(d.facts.facets),
                d.judged ? l.levels[d.judged.level] : '',
                `n ${ratio(d.facts.refractiveIndex)}`,
              ].join(' · ')
            : w.diagrams.draft}
        </Typography>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mt: 1, ml: -2 }}>
        <Button
          variant="text"
          onClick={() => actions.copy.mutate(d.id)}
          aria-label={`${w.diagrams.copy}: ${name}`}
        >
          {w.diagrams.copy}
        </Button>
        {d.revision && (
          <Button
            variant="text"
            href={`/api/diagrams/${d.id}/file/json`}
            download
            aria-label={`${l.exportAs}: ${name}`}
          >
            {l.exportAs}
          </Button>
        )}
        <Button
          variant="text"
          onClick={() => actions.remove.mutate(d)}
          aria-label={`${w.diagrams.delete}: ${name}`}
        >
          {w.diagrams.delete}
        </Button>
      </Box>
    </Box>
  );
}
