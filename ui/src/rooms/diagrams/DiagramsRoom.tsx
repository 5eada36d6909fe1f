import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { DiagramLine } from '../../api/client';
import { libraryQuery, type DiagramFilter } from '../../api/diagrams';
import { IconMenu } from '../../parts/MenuButton';
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
  /** 1 for what was deleted and can be brought back. */
  deleted: '',
  sort: '',
};
type Filter = typeof noFilter;

/** What fits the machine comes first, the easiest before the harder. */
const usualSort = 'fit';

function Library({ onCreate }: { onCreate: () => void }) {
  const [filter, change] = useFilter(noFilter);
  const set = (name: keyof Filter, value: string) => change({ [name]: value });
  const diagrams = useInfiniteQuery(libraryQuery(asked(filter)));
  const pages = diagrams.data?.pages ?? [];
  const found = pages.flatMap((p) => p.diagrams);
  const { outlines = [], gears = [], total = 0 } = pages[0] ?? {};
  return (
    <>
      <Box
        sx={{ display: 'flex', gap: 2, px: 6, py: 3, flexWrap: 'wrap', alignItems: 'center' }}
        role="search"
      >
        <TextField
          label={w.diagrams.search}
          value={filter.q}
          onChange={(e) => set('q', e.target.value)}
          sx={{ flex: '1 1 160px', maxWidth: 320 }}
        />
        <PickField
          label={w.diagrams.outline}
          value={filter.outline}
          options={[{ value: '', name: w.diagrams.any }, ...names(outlines)]}
          onChange={(v) => set('outline', v)}
          width={120}
        />
        <PickField
          label={w.diagrams.gear}
          value={filter.gear}
          options={[{ value: '', name: w.diagrams.any }, ...names(gears)]}
          onChange={(v) => set('gear', v)}
          width={90}
        />
        <PickField
          label={l.filter.sort}
          value={filter.sort || usualSort}
          options={l.filter.sorts}
          onChange={(v) => set('sort', v === usualSort ? '' : v)}
          width={260}
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
        <FurtherFilters filter={filter} set={set} />
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
            <Entry key={d.id} diagram={d} deleted={filter.deleted !== ''} />
          ))}
        </Box>
      )}
      <More query={diagrams} shown={found.length} total={total} />
    </>
  );
}

/** What is filtered by less often, in a panel of its own. */
function FurtherFilters({
  filter,
  set,
}: {
  filter: Filter;
  set: (name: keyof Filter, value: string) => void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const on = further.filter((name) => filter[name] !== '').length;
  const bound = (name: 'from' | 'to' | 'ratioFrom' | 'ratioTo', label: string) => (
    <TextField
      label={label}
      value={filter[name]}
      onChange={(e) => set(name, e.target.value)}
      sx={{ width: 130 }}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
    />
  );
  return (
    <>
      <Button onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="dialog">
        {l.filter.further(on)}
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      >
        <Box
          role="group"
          aria-label={l.filter.further(0)}
          sx={{ display: 'grid', gridTemplateColumns: 'auto auto', gap: 3, p: 4 }}
        >
          {bound('from', w.diagrams.facetsFrom)}
          {bound('to', w.diagrams.facetsTo)}
          {bound('ratioFrom', l.filter.ratioFrom)}
          {bound('ratioTo', l.filter.ratioTo)}
          <MaterialField
            label={l.filter.suits}
            value={filter.suits}
            none={w.diagrams.any}
            onChange={(v) => set('suits', v)}
            width={170}
          />
          <PickField
            label={l.filter.difficulty}
            value={filter.level}
            options={[{ value: '', name: w.diagrams.any }, ...names(Object.keys(l.levels))]}
            onChange={(v) => set('level', v)}
            width={150}
          />
          <FormControlLabel
            sx={{ gridColumn: '1 / -1' }}
            control={
              <Checkbox
                checked={filter.deleted !== ''}
                onChange={(e) => set('deleted', e.target.checked ? '1' : '')}
              />
            }
            label={l.filter.deleted}
          />
        </Box>
      </Popover>
    </>
  );
}

const further = ['from', 'to', 'ratioFrom', 'ratioTo', 'suits', 'level', 'deleted'] as const;

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
    deleted: f.deleted !== '',
    sort: (f.sort || usualSort) as DiagramFilter['sort'],
  };
}

/** A diagram of the library, drawn, with what can be done with it. */
function Entry({ diagram: d, deleted }: { diagram: DiagramLine; deleted: boolean }) {
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
        position: 'relative',
        '&:hover': { backgroundColor: 'background.paper' },
      }}
    >
      <Box
        // What was deleted has no page until it is brought back.
        {...(deleted ? {} : { component: Link, to: `/diagrams/${d.id}` })}
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
      <Box sx={{ position: 'absolute', top: 4, right: 4 }}>
        {deleted ? (
          <Button onClick={() => actions.restore(d.id)} aria-label={`${l.restore}: ${name}`}>
            {l.restore}
          </Button>
        ) : (
          <IconMenu
            label={l.actions(name)}
            entries={[
              { label: w.diagrams.copy, run: () => actions.copy.mutate(d.id) },
              ...(d.revision
                ? [{ label: l.exportAs, href: `/api/diagrams/${d.id}/file/json` }]
                : []),
              { label: w.diagrams.delete, run: () => actions.remove(d) },
            ]}
          />
        )}
      </Box>
    </Box>
  );
}
