import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { answer, ApiProblem, client, type Settings } from '../../api/client';
import { settingsQuery } from '../../api/queries';
import { useNotice } from '../../app/notice';
import { Conflict } from '../../parts/Conflict';
import { PassList } from '../../parts/PassList';
import { Refusal } from '../../parts/Refusal';
import { angle } from '../../words/numbers';
import { w } from '../../words/words';

const steps = [0.05, 0.1, 0.2, 0.25, 0.5, 1];

interface Props {
  settings: Settings;
  /** Asks only what a first opening needs. */
  short?: boolean;
  onSaved?: () => void;
  children?: ReactNode;
}

/** The machine and the habits that plans and the bench respect. */
export function MachineForm({ settings, short, onSaved, children }: Props) {
  const [draft, setDraft] = useState(settings);
  const [gears, setGears] = useState(settings.gears.join(' '));
  const [theirs, setTheirs] = useState<Settings | null>(null);
  const say = useNotice();
  const save = useSaveSettings((saved) => {
    setDraft(saved);
    say({ text: w.setup.saved });
    onSaved?.();
  }, setTheirs);
  const teeth = parseGears(gears);
  const set = (change: Partial<Settings>) => setDraft({ ...draft, ...change });
  const mine = () => ({ ...draft, gears: teeth ?? draft.gears, answered: true });
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        if (teeth) save.mutate(mine());
      }}
      sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', alignItems: 'flex-start' }}
    >
      <TextField
        label={w.setup.gears}
        value={gears}
        onChange={(e) => setGears(e.target.value)}
        error={!teeth}
        helperText={teeth ? w.setup.gearsHelp : w.setup.gearsBad}
      />
      <TextField
        select
        label={w.setup.step}
        value={draft.angleStep}
        onChange={(e) => set({ angleStep: Number(e.target.value) })}
        sx={{ minWidth: 220 }}
      >
        {[...new Set([...steps, draft.angleStep])].map((s) => (
          <MenuItem key={s} value={s}>
            {angle(s)}°
          </MenuItem>
        ))}
      </TextField>
      <FormControlLabel
        control={
          <Switch checked={draft.cheater} onChange={(e) => set({ cheater: e.target.checked })} />
        }
        label={w.setup.cheater}
      />
      {!short && <Habits draft={draft} set={set} />}
      <Box sx={{ display: 'flex', gap: 2, flexBasis: short ? 'auto' : '100%' }}>
        <Button type="submit" variant="contained" disabled={!teeth || save.isPending}>
          {w.setup.done}
        </Button>
        {children}
      </Box>
      <Refusal error={save.error} />
      {theirs && (
        <Conflict
          mine={tell(mine())}
          theirs={tell(theirs)}
          onMine={() => {
            save.mutate({ ...mine(), version: theirs.version });
            setTheirs(null);
          }}
          onTheirs={() => {
            setDraft(theirs);
            setGears(theirs.gears.join(' '));
            setTheirs(null);
          }}
        />
      )}
    </Box>
  );
}

function Habits({ draft, set }: { draft: Settings; set: (change: Partial<Settings>) => void }) {
  return (
    <>
      <TextField
        select
        label={w.setup.tick}
        value={draft.tick}
        onChange={(e) => set({ tick: e.target.value as Settings['tick'] })}
        sx={{ minWidth: 220 }}
      >
        {Object.entries(w.setup.ticks).map(([value, name]) => (
          <MenuItem key={value} value={value}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ flexBasis: '100%', maxWidth: 560 }}>
        <PassList
          head={w.setup.passes}
          passes={draft.passes}
          onChange={(passes) => set({ passes })}
        />
      </Box>
    </>
  );
}

function tell(s: Settings): string[] {
  return [
    `${w.setup.gears}: ${s.gears.join(' ')}`,
    `${w.setup.step}: ${angle(s.angleStep)}°`,
    `${w.setup.cheater}: ${s.cheater ? '✓' : '–'}`,
    `${w.setup.tick}: ${w.setup.ticks[s.tick]}`,
    ...s.passes.map((p) => `${p.name} ${p.lap}`),
  ];
}

/** Reads numbers of teeth; undefined where one is none. */
function parseGears(text: string): number[] | undefined {
  const teeth = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const good = teeth.length > 0 && teeth.every((n) => Number.isInteger(n) && n >= 1 && n <= 360);
  return good ? teeth : undefined;
}

/** Saves settings; where they were changed elsewhere meanwhile, those are handed on. */
export function useSaveSettings(
  onSaved: (s: Settings) => void,
  onStale: (theirs: Settings) => void,
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (s: Settings) => answer(client.PUT('/api/settings', { body: s })),
    onSuccess: (saved) => {
      queries.setQueryData(settingsQuery.queryKey, saved);
      onSaved(saved);
    },
    onError: async (error) => {
      if (error instanceof ApiProblem && error.stale) {
        onStale(await queries.fetchQuery({ ...settingsQuery, staleTime: 0 }));
      }
    },
  });
}
