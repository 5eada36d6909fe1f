import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import type { Habits, Machine, Settings } from '../../api/client';
import { settingsQuery } from '../../api/queries';
import { useKeys } from '../../app/keys';
import { useNotice } from '../../app/notice';
import { Conflict } from '../../parts/Conflict';
import { Await, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { angle } from '../../words/numbers';
import { machineWords as m } from '../../words/machine';
import { w } from '../../words/words';
import { DevicesDesk } from './DevicesDesk';
import { HabitFields } from './HabitFields';
import { MachineFields } from './MachineFields';
import { MaterialsDesk } from './MaterialsDesk';
import { freshID, useSaveSettings } from './useSaveSettings';

export function MachineRoom() {
  const settings = useQuery(settingsQuery);
  return <Await query={settings}>{(s) => <SettingsDesk settings={s} />}</Await>;
}

type Tab = keyof typeof m.tabs;

/** Machines, habits and materials, changed together and saved together. */
function SettingsDesk({ settings }: { settings: Settings }) {
  const [draft, setDraft] = useState(settings);
  const [params, setParams] = useSearchParams();
  const [unreadable, setUnreadable] = useState(false);
  // What was typed into a field is forgotten when other settings come in.
  const [round, setRound] = useState(0);
  const say = useNotice();
  const take = (s: Settings) => {
    setDraft(s);
    setRound((n) => n + 1);
  };
  const saving = useSaveSettings((saved) => {
    take(saved);
    say({ text: m.saved });
  }, take);
  const keep = () => !unreadable && saving.save(draft, draft.version);
  useKeys([{ keys: ['Ctrl+s'], label: m.save, run: keep }]);
  const tab = (params.get('show') ?? 'machines') as Tab;
  const dirty = JSON.stringify(draft) !== JSON.stringify(settings);
  return (
    <>
      <PageHead title={w.common.machine} facts={[dirty ? m.unsaved : '']}>
        <Button variant="contained" onClick={keep} disabled={unreadable || saving.isPending}>
          {m.save}
        </Button>
      </PageHead>
      <Box sx={{ p: 6 }} key={round}>
        <ToggleButtonGroup
          exclusive
          value={tab}
          onChange={(_, v: Tab | null) => v && setParams({ show: v }, { replace: true })}
          aria-label={w.common.machine}
        >
          {Object.entries(m.tabs).map(([value, name]) => (
            <ToggleButton key={value} value={value}>
              {name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Typography color="text.secondary" sx={{ my: 3 }}>
          {m.lead[tab]}
        </Typography>
        <Refusal error={saving.error} />
        {tab === 'machines' && (
          <Several<Machine>
            list={draft.machines}
            main={draft.machine}
            add={m.addMachine}
            onList={(machines, machine) => setDraft({ ...draft, machines, machine })}
          >
            {(k, change) => (
              <MachineFields
                key={k.id}
                machine={k}
                onChange={change}
                onGears={(readable) => setUnreadable(!readable)}
              />
            )}
          </Several>
        )}
        {tab === 'habits' && (
          <Several<Habits>
            list={draft.habits}
            main={draft.habit}
            add={m.addHabits}
            onList={(habits, habit) => setDraft({ ...draft, habits, habit })}
          >
            {(h, change) => <HabitFields key={h.id} habits={h} onChange={change} />}
          </Several>
        )}
        {tab === 'devices' && <DevicesDesk />}
        {tab === 'materials' && (
          <MaterialsDesk
            own={draft.materials}
            onChange={(materials) => setDraft({ ...draft, materials })}
          />
        )}
      </Box>
      {saving.theirs && (
        <Conflict
          mine={tell(draft)}
          theirs={tell(saving.theirs)}
          onMine={saving.keepMine}
          onTheirs={saving.takeTheirs}
        />
      )}
    </>
  );
}

interface Named {
  id: string;
  name: string;
}

interface SeveralProps<T extends Named> {
  list: T[];
  /** The ID of the default. */
  main: string;
  add: string;
  onList: (list: T[], main: string) => void;
  children: (one: T, change: (c: Partial<T>) => void) => ReactNode;
}

/** Several of a kind with one default: their names on the left, the chosen one on the right. */
function Several<T extends Named>({ list, main, add, onList, children }: SeveralProps<T>) {
  const [chosen, setChosen] = useState(main);
  const one = list.find((o) => o.id === chosen) ?? list[0]!;
  const copy = () => {
    const id = freshID(list, one.id.replace(/\d+$/, ''));
    onList([...list, { ...one, id, name: m.copyOf(one.name) }], main);
    setChosen(id);
  };
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '260px 1fr' }, columnGap: 8 }}
    >
      <Box>
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 1 }}>
          {list.map((o) => (
            <Box component="li" key={o.id} sx={{ borderBottom: 1, borderColor: 'divider' }}>
              <Button
                fullWidth
                aria-pressed={o.id === one.id}
                onClick={() => setChosen(o.id)}
                sx={{
                  border: 0,
                  justifyContent: 'space-between',
                  background: (t) => (o.id === one.id ? t.tokens.copperWash : undefined),
                }}
              >
                <span>{o.name || '–'}</span>
                {o.id === main && (
                  <Typography component="span" variant="body2">
                    {m.isDefault}
                  </Typography>
                )}
              </Button>
            </Box>
          ))}
        </Box>
        <Button sx={{ mt: 3 }} onClick={copy}>
          {add}
        </Button>
      </Box>
      <Box sx={{ maxWidth: 860, mt: { xs: 4, md: 0 } }}>
        {children(one, (change) =>
          onList(
            list.map((o) => (o.id === one.id ? { ...o, ...change } : o)),
            main,
          ),
        )}
        <Box sx={{ display: 'flex', gap: 2, mt: 6 }}>
          <Button disabled={one.id === main} onClick={() => onList(list, one.id)}>
            {m.makeDefault}
          </Button>
          <Button
            disabled={list.length === 1 || one.id === main}
            onClick={() =>
              onList(
                list.filter((o) => o.id !== one.id),
                main,
              )
            }
          >
            {m.remove(one.name)}
          </Button>
        </Box>
      </Box>
    </Box>
  );
}

/** Settings in lines, for holding two against each other. */
function tell(s: Settings): string[] {
  return [
    ...s.machines.map(
      (k) => `${k.name}: ${k.gears.join(' ')} · ${angle(k.angleStep)}° · ${m.cheaters[k.cheater]}`,
    ),
    ...s.habits.map((h) => `${h.name}: ${h.passes.map((p) => `${p.name} ${p.lap}`).join(', ')}`),
    ...s.materials.map((o) => `${o.name} n ${o.refractiveIndex.low}`),
  ];
}
