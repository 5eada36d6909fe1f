import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import type { Habits, Machine, Settings } from '../../api/client';
import { settingsQuery } from '../../api/settings';
import { useKeys } from '../../parts/keys';
import { useNotice } from '../../parts/notice';
import { BesideList } from '../../parts/BesideList';
import { ChoiceList } from '../../parts/ChoiceList';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Await, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { angle } from '../../words/numbers';
import { machineWords as m } from '../../words/machine';
import { w } from '../../words/words';
import { lapLines } from '../../parts/work/lapUse';
import { CopiesDesk } from './CopiesDesk';
import { DevicesDesk } from './DevicesDesk';
import { HabitFields } from './HabitFields';
import { InstrumentsDesk } from './InstrumentsDesk';
import { MachineFields } from './MachineFields';
import { MaterialsDesk } from './MaterialsDesk';
import { freshID } from '../../parts/freshID';
import { useSaveSettings } from '../../parts/settings/useSaveSettings';

export function MachineRoom() {
  const settings = useQuery(settingsQuery);
  return <Await query={settings}>{(s) => <SettingsDesk settings={s} />}</Await>;
}

type Tab = keyof typeof m.tabs;

/** Tabs of what is kept by itself, as soon as it is said. */
const keptApart: Tab[] = ['instruments', 'devices', 'copies'];

/** Machines, habits and materials, changed together and saved together. */
function SettingsDesk({ settings }: { settings: Settings }) {
  const [draft, setDraft] = useState(settings);
  const [params, setParams] = useSearchParams();
  const { readable, report } = useReadable();
  const say = useNotice();
  const saving = useSaveSettings((saved) => {
    setDraft(saved);
    say({ text: m.saved });
  }, setDraft);
  const keep = () => readable && saving.save(draft, draft.version);
  useKeys([{ keys: ['Ctrl+s'], label: m.save, run: keep }]);
  const tab = (params.get('show') ?? 'machines') as Tab;
  const dirty = JSON.stringify(draft) !== JSON.stringify(settings);
  return (
    <>
      <PageHead title={w.common.machine} facts={[dirty ? m.unsaved : '']}>
        {(dirty || !keptApart.includes(tab)) && (
          <Button variant="contained" onClick={keep} disabled={!readable || saving.isPending}>
            {m.save}
          </Button>
        )}
      </PageHead>
      <Box sx={{ p: 6 }}>
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
            label={m.tabs.machines}
            add={m.addMachine}
            onList={(machines, machine) => setDraft({ ...draft, machines, machine })}
          >
            {(k, change) => (
              <FormFields value={report}>
                <MachineFields key={k.id} machine={k} onChange={change} />
              </FormFields>
            )}
          </Several>
        )}
        {tab === 'habits' && (
          <Several<Habits>
            list={draft.habits}
            main={draft.habit}
            label={m.tabs.habits}
            add={m.addHabits}
            onList={(habits, habit) => setDraft({ ...draft, habits, habit })}
          >
            {(h, change) => <HabitFields key={h.id} habits={h} onChange={change} />}
          </Several>
        )}
        {tab === 'instruments' && <InstrumentsDesk />}
        {tab === 'devices' && <DevicesDesk />}
        {tab === 'copies' && <CopiesDesk />}
        {tab === 'materials' && (
          <MaterialsDesk
            own={draft.materials}
            onChange={(materials) => setDraft({ ...draft, materials })}
          />
        )}
      </Box>
      <SaveConflict saving={saving} mine={linesOf(draft)} linesOf={linesOf} />
    </>
  );
}

interface Named {
  id: string;
  name: string;
}

interface SeveralProps<T extends Named> {
  label: string;
  list: T[];
  /** The ID of the default. */
  main: string;
  add: string;
  onList: (list: T[], main: string) => void;
  children: (one: T, change: (c: Partial<T>) => void) => ReactNode;
}

/** Several of a kind with one default: their names on the left, the chosen one on the right. */
function Several<T extends Named>(props: SeveralProps<T>) {
  const { label, list, main, add, onList, children } = props;
  const [chosen, setChosen] = useState(main);
  const one = list.find((o) => o.id === chosen) ?? list[0]!;
  const copy = () => {
    const id = freshID(list, one.id.replace(/\d+$/, ''));
    onList([...list, { ...one, id, name: m.copyOf(one.name) }], main);
    setChosen(id);
  };
  return (
    <BesideList
      width={260}
      list={
        <>
          <ChoiceList
            label={label}
            list={list}
            keyOf={(o) => o.id}
            isChosen={(o) => o.id === one.id}
            onChoose={(o) => setChosen(o.id)}
          >
            {(o) => (
              <>
                <span>{o.name || '–'}</span>
                {o.id === main && (
                  <Typography component="span" variant="body2">
                    {m.isDefault}
                  </Typography>
                )}
              </>
            )}
          </ChoiceList>
          <Button sx={{ mt: 3 }} onClick={copy}>
            {add}
          </Button>
        </>
      }
    >
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
    </BesideList>
  );
}

/** Settings in lines, for holding two against each other. */
function linesOf(s: Settings): string[] {
  return [
    ...s.machines.map(
      (k) => `${k.name}: ${k.gears.join(' ')} · ${angle(k.angleStep)}° · ${m.cheaters[k.cheater]}`,
    ),
    ...s.habits.map((h) => `${h.name}: ${lapLines(h).join(', ')}`),
    ...s.materials.map((o) => `${o.name} n ${o.refractiveIndex.low}`),
  ];
}
