import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { DiagramLine } from '../../api/client';
import { libraryQuery, type DiagramFilter } from '../../api/diagrams';
import { More } from '../../parts/More';
import { useFilter } from '../../parts/useFilter';
import { MaterialField } from '../../parts/fields/MaterialField';
import { names, PickField } from '../../parts/fields/PickField';
import { Await, Empty, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { Thumbnail } from '../../parts/Thumbnail';
import { parseNumber, ratio } from '../../words/numbers';
import { libraryWords as l } from '../../words/library';
import { solidWords } from '../../words/solids';
import { w } from '../../words/words';
import { useDiagramActions } from '../../parts/diagram/useDiagramActions';
import { SolidDialog } from './SolidDialog';
import { QuickDesign } from './QuickDesign';

/** The library: every diagram, searched and sorted. */
export function DiagramsRoom() {
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
        <Button onClick={() => setDesigning('solid')}>{solidWords.open}</Button>
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

/** A library that is not filtered. All of it is text, as it is typed. */
const noFilter = {
  q: '',
  outline: '',
  gear: '',
  from: '',
  to: '',
  /** A material in which the pavilion keeps its light. */
  suits: '',
  ratioFrom: '',
  ratioTo: '',
  level: '',
  /** 1 where the machine must be able to cut it as it is. */
  cuttable: '',
  sort: '',
};
type Filter = typeof noFilter;

function Library({ onCreate }: { onCreate: () => void }) {
  const [filter, change] = useFilter(noFilter);
  const set = (name: keyof Filter, value: string) => change({ [name]: value });
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
        <PickField
          label={w.diagrams.outline}
          value={filter.outline}
          options={[{ value: '', name: w.diagrams.any }, ...names(outlines)]}
          onChange={(v) => set('outline', v)}
          width={140}
        />
        <PickField
          label={w.diagrams.gear}
          value={filter.gear}
          options={[{ value: '', name: w.diagrams.any }, ...names(gears)]}
          onChange={(v) => set('gear', v)}
          width={130}
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
        <MaterialField
          label={l.filter.suits}
          value={filter.suits}
          none={w.diagrams.any}
          onChange={(v) => set('suits', v)}
          width={170}
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
        <PickField
          label={l.filter.difficulty}
          value={filter.level}
          options={[{ value: '', name: w.diagrams.any }, ...names(Object.keys(l.levels))]}
          onChange={(v) => set('level', v)}
          width={150}
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
            <Entry key={d.id} diagram={d} />
          ))}
        </Box>
      )}
      <More query={diagrams} shown={found.length} total={total} />
    </>
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

/** A diagram of the library, drawn, with what can be done with it. */
function Entry({ diagram: d }: { diagram: DiagramLine }) {
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
          onClick={() => actions.remove(d)}
          aria-label={`${w.diagrams.delete}: ${name}`}
        >
          {w.diagrams.delete}
        </Button>
      </Box>
    </Box>
  );
}
