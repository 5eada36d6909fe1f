import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { DiagramLine } from '../../api/client';
import { libraryQuery, materialsQuery, type DiagramFilter } from '../../api/queries';
import { More } from '../../parts/More';
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
      <Library onCreate={openNew} />
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

function Library({ onCreate }: { onCreate: () => void }) {
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
  const diagrams = useInfiniteQuery(libraryQuery(asked(filter)));
  const pages = diagrams.data?.pages ?? [];
  const found = pages.flatMap((p) => p.diagrams);
  const { outlines = [], gears = [], total = 0 } = pages[0] ?? {};
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
      {!diagrams.data ? (
        <Await query={diagrams}>{() => null}</Await>
      ) : found.length === 0 ? (
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
      <More query={diagrams} shown={found.length} total={total} />
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

/** The filter as the server is asked. A number that cannot be read bounds nothing. */
function asked(f: Filter): DiagramFilter {
  const number = (text: string) => parseNumber(text);
  const whole = (text: string) => {
    const v = parseNumber(text);
    return v === undefined ? undefined : Math.max(0, Math.round(v));
  };
  return {
    text: f.q,
    outline: f.outline,
    gear: f.gear,
    facetsFrom: whole(f.from),
    facetsTo: whole(f.to),
    suits: f.suits,
    ratioFrom: number(f.ratioFrom),
    ratioTo: number(f.ratioTo),
    level: f.level as DiagramFilter['level'],
    cuttable: f.cuttable !== '',
    sort: f.sort as DiagramFilter['sort'],
  };
}

function Sheet({ diagram: d }: { diagram: DiagramLine }) {
  const actions = useDiagramActions();
  const name = d.name || w.diagrams.noName;
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
          <Thumbnail hash={d.revision} size={150} />
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
