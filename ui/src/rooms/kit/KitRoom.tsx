import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { ladderQuery, shelfQuery, type Shelved } from '../../api/kit';
import { MaterialField } from '../../parts/fields/MaterialField';
import { LadderOf } from '../../parts/kit/Ladder';
import { useKeys } from '../../parts/keys';
import { Await, Empty, PageHead } from '../../parts/Page';
import { kitWords as k } from '../../words/kit';
import { AddDialog } from './AddDialog';
import { DueList } from './DueList';
import { PolishesDesk } from './PolishesDesk';
import { RecipesDesk } from './RecipesDesk';
import { RulesDialog } from './RulesDialog';
import { Shelves } from './Shelves';
import { StarterDialog } from './StarterDialog';
import { ThingPanel } from './ThingPanel';
import { TrialsDesk } from './TrialsDesk';

type Tab = keyof typeof k.tabs;
type Open = 'add' | 'starter' | 'rules';

/** The shelf: what there is, what is left of it, and what needs a look. */
export function KitRoom() {
  const shelf = useQuery(shelfQuery);
  const [params, setParams] = useSearchParams();
  const tab = (params.get('show') ?? 'shelf') as Tab;
  const [open, setOpen] = useState<Open>();
  const due = shelf.data?.filter((s) => s.needs.length > 0) ?? [];
  const there = shelf.data?.filter((s) => !s.gone) ?? [];
  useKeys([{ keys: ['n'], label: k.add, run: () => setOpen('add') }]);
  const close = () => setOpen(undefined);
  return (
    <>
      <PageHead title={k.title} facts={shelf.data ? k.facts(there.length, due.length) : []}>
        <Button onClick={() => setOpen('rules')}>{k.rules}</Button>
        <Button onClick={() => setOpen('starter')}>{k.starter}</Button>
        <Button variant="contained" onClick={() => setOpen('add')}>
          {k.add}
        </Button>
      </PageHead>
      <Box sx={{ px: 6, pt: 4 }}>
        <ToggleButtonGroup
          exclusive
          value={tab}
          onChange={(_, v: Tab | null) => v && setParams({ show: v }, { replace: true })}
          aria-label={k.title}
        >
          {Object.entries(k.tabs).map(([value, name]) => (
            <ToggleButton key={value} value={value}>
              {name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {tab !== 'shelf' && (
          <Typography color="text.secondary" sx={{ my: 3 }}>
            {{ recipes: k.recipes.lead, polishes: k.polish.lead, trials: k.blind.lead }[tab]}
          </Typography>
        )}
        {tab === 'recipes' && <RecipesDesk />}
        {tab === 'polishes' && <PolishesDesk />}
        {tab === 'trials' && <TrialsDesk />}
      </Box>
      {tab === 'shelf' && (
        <Await query={shelf}>
          {(things) =>
            // A new workshop's gears are those of its machine: they are no shelf yet.
            things.every((s) => s.item.gear) ? (
              <Empty text={k.empty}>
                <Button variant="contained" onClick={() => setOpen('starter')}>
                  {k.starter}
                </Button>
              </Empty>
            ) : (
              <Desk things={things} />
            )
          }
        </Await>
      )}
      {open === 'add' && <AddDialog onClose={close} />}
      {open === 'starter' && <StarterDialog onClose={close} />}
      {open === 'rules' && <RulesDialog onClose={close} />}
    </>
  );
}

/** The shelf, and beside it the thing that is looked at. */
function Desk({ things }: { things: Shelved[] }) {
  const [params, setParams] = useSearchParams();
  const set = (name: string, value: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value) next.set(name, value);
        else next.delete(name);
        return next;
      },
      { replace: true },
    );
  const material = params.get('for') ?? '';
  const chosen = things.find((s) => s.item.id === params.get('thing'));
  const { data: ladder } = useQuery(ladderQuery(material, []));
  const reach =
    material && ladder
      ? new Map(
          ladder.rungs.flatMap((r, i) => [
            [r.pass.lapItem, i + 1],
            [r.pass.compoundItem, i + 1],
          ]),
        )
      : undefined;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 400px' },
        minHeight: { md: 'calc(100vh - 110px)' },
      }}
    >
      <Box sx={{ p: 6, pt: 4, borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>
        <MaterialField
          label={k.next}
          value={material}
          none={k.anyStone}
          onChange={(name) => set('for', name)}
          width={260}
        />
        <Shelves
          things={things}
          reach={reach}
          chosen={chosen?.item.id}
          onChoose={(id) => set('thing', id)}
        >
          {material && <LadderOf material={material} passes={[]} />}
        </Shelves>
      </Box>
      <Box sx={{ p: 6, pt: 4 }}>
        {chosen ? (
          <ThingPanel key={chosen.item.id} id={chosen.item.id} onClose={() => set('thing', '')} />
        ) : (
          <>
            <Typography variant="h2" gutterBottom>
              {k.due}
            </Typography>
            <DueList things={things} onChoose={(id) => set('thing', id)} />
          </>
        )}
      </Box>
    </Box>
  );
}
