import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Instrument, InstrumentState, LiveReading } from '../../api/client';
import {
  addInstrument,
  dropInstrument,
  findInstruments,
  instrumentRecord,
  instrumentsQuery,
  type NewInstrument,
} from '../../api/instruments';
import { ranges } from '../../api/ranges';
import type { Quantity } from '../../live/live';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { useInstruments, useReadings } from '../../parts/instruments/useReadings';
import { useNotice } from '../../parts/notice';
import { Await, Care } from '../../parts/Page';
import { Row } from '../../parts/Row';
import { instrumentWords as t } from '../../words/instruments';
import { plain } from '../../words/numbers';
import { w } from '../../words/words';
import { CorrectDialog } from './CorrectDialog';

/** What measures on the bench: what it reads now, large, and how it is found, named and corrected. */
export function InstrumentsDesk() {
  const list = useQuery(instrumentsQuery);
  return (
    <Await query={list}>
      {(all) => (
        <>
          {all.length === 0 && <Typography sx={{ maxWidth: 720, mb: 4 }}>{t.none}</Typography>}
          {all.map((i) => (
            <OneInstrument key={`${i.id} ${i.version}`} instrument={i} />
          ))}
          <Finder taken={all} />
        </>
      )}
    </Await>
  );
}

function OneInstrument({ instrument }: { instrument: Instrument }) {
  const queries = useQueryClient();
  const say = useNotice();
  const state = useInstruments().find((s) => s.id === instrument.id);
  const [name, setName] = useState(instrument.name);
  const [correcting, correct] = useState<Quantity>();
  const put = (saved: Instrument) =>
    queries.setQueryData(instrumentsQuery.queryKey, (all = []) =>
      all.map((i) => (i.id === saved.id ? saved : i)),
    );
  const saving = useSaveOver(instrumentRecord(instrument.id), {
    onSaved: (saved: Instrument) => {
      put(saved);
      correct(undefined);
      say({ text: t.saved });
    },
    onTheirs: put,
  });
  const drop = useMutation(dropInstrument);
  return (
    <Box
      component="section"
      aria-label={instrument.name}
      sx={{ borderTop: 1, borderColor: 'text.primary', py: 4 }}
    >
      <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', flexWrap: 'wrap', mb: 3 }}>
        <TextField
          label={t.name}
          value={name}
          onChange={(e) => setName(e.target.value)}
          sx={{ width: 220 }}
        />
        {name.trim() !== instrument.name && name.trim() !== '' && (
          <Button
            variant="contained"
            onClick={() => saving.save({ ...instrument, name }, instrument.version)}
          >
            {t.keep}
          </Button>
        )}
        <Typography color="text.secondary">
          {t.ports[instrument.port]} · {instrument.address}
          {instrument.port === 'serial' && ` · ${instrument.baud}`}
        </Typography>
        <Standing state={state} />
        <Button
          sx={{ ml: 'auto' }}
          onClick={() =>
            drop.mutate(instrument, { onSuccess: () => say({ text: t.takenOff(instrument.name) }) })
          }
        >
          {t.takeOff}
        </Button>
      </Box>
      {state && !state.here && state.trouble !== '' && <Care>{state.trouble}</Care>}
      <Refusal error={saving.error ?? drop.error} />
      <Readings instrument={instrument} state={state} onCorrect={correct} />
      {correcting && (
        <CorrectDialog
          instrument={instrument}
          quantity={correcting}
          onSave={(scales) => saving.save({ ...instrument, scales }, instrument.version)}
          onClose={() => correct(undefined)}
        />
      )}
      <SaveConflict saving={saving} mine={linesOf({ ...instrument, name })} linesOf={linesOf} />
    </Box>
  );
}

/** Whether an instrument is read now, and what of it cannot be. */
function Standing({ state }: { state: InstrumentState | undefined }) {
  return (
    <Typography role="status" sx={{ fontWeight: 600 }} data-here={state?.here === true}>
      {state?.here ? `● ${t.here}` : `○ ${t.looking}`}
      {state && state.unread > 0 && (
        <Typography component="span" color="text.secondary" sx={{ ml: 3 }}>
          {t.unread(state.unread, state.lastUnread)}
        </Typography>
      )}
    </Typography>
  );
}

interface ReadingsProps {
  instrument: Instrument;
  state: InstrumentState | undefined;
  onCorrect: (quantity: Quantity) => void;
}

/** What an instrument reads now, readable across the bench. */
function Readings({ instrument, state, onCorrect }: ReadingsProps) {
  const latest = useReadings();
  if (!state?.here) return null;
  // What another instrument reads of the same quantity is not this one's.
  const now = state.now.map((r) => {
    const live = latest.get(r.quantity);
    return live?.instrument === instrument.id ? live : r;
  });
  if (now.length === 0) return <Typography color="text.secondary">{t.nothingYet}</Typography>;
  return (
    <Box sx={{ display: 'flex', gap: 10, flexWrap: 'wrap' }}>
      {now.map((r) => (
        <OneReading key={r.quantity} reading={r} onCorrect={() => onCorrect(r.quantity)} />
      ))}
    </Box>
  );
}

function OneReading({ reading, onCorrect }: { reading: LiveReading; onCorrect: () => void }) {
  const { quantity, value, raw, held } = reading;
  return (
    <Box>
      <Typography color="text.secondary">{t.quantities[quantity]}</Typography>
      <Typography
        variant="figures"
        component="p"
        data-reading={quantity}
        sx={{ fontSize: '2.75rem', lineHeight: 1.1, fontWeight: 600, minWidth: '6ch' }}
      >
        {t.reading[quantity](value)}
      </Typography>
      <Typography color="text.secondary" sx={{ minHeight: 24 }}>
        {[held && t.held, raw !== value && `${t.reads} ${plain(raw)}`].filter(Boolean).join(' · ')}
      </Typography>
      <Button onClick={onCorrect} aria-label={`${t.correct}: ${t.quantities[quantity]}`}>
        {t.correct}
      </Button>
    </Box>
  );
}

/** Looks for instruments, and takes the address of one. */
function Finder({ taken }: { taken: readonly Instrument[] }) {
  const find = useMutation(findInstruments);
  const add = useMutation(addInstrument);
  const [typed, setTyped] = useState<NewInstrument>();
  const free = (find.data ?? []).filter((f) => !taken.some((i) => i.address === f.address));
  const named = (base: string) => {
    const isFree = (name: string) => !taken.some((i) => i.name === name);
    for (let n = 1; ; n++) {
      const name = n === 1 ? base : `${base} ${n}`;
      if (isFree(name)) return name;
    }
  };
  return (
    <Box sx={{ borderTop: 1, borderColor: 'text.primary', pt: 4 }}>
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', mb: 3 }}>
        <Button
          variant={taken.length === 0 ? 'contained' : 'outlined'}
          disabled={find.isPending}
          onClick={() => find.mutate()}
        >
          {find.isPending ? t.finding : t.find}
        </Button>
        <Button
          onClick={() =>
            setTyped({ name: named(t.port), port: 'tcp', address: '', baud: usualBaud })
          }
        >
          {t.add}
        </Button>
      </Box>
      <Refusal error={find.error ?? add.error} />
      {find.data && free.length === 0 && <Typography>{t.foundNone}</Typography>}
      {free.map((f) => (
        <Box key={f.address} sx={{ display: 'flex', gap: 4, alignItems: 'center', mb: 2 }}>
          <Typography>
            {t.ports[f.port]} · {f.address}
            {f.port === 'tcp' && ` · ${t.simulated}`}
          </Typography>
          <Button
            onClick={() =>
              add.mutate({ ...f, name: named(f.port === 'tcp' ? 'Simulated machine' : f.address) })
            }
          >
            {t.read}
          </Button>
        </Box>
      ))}
      {typed && (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            add.mutate(typed, { onSuccess: () => setTyped(undefined) });
          }}
        >
          <Row>
            <TextField
              label={t.name}
              required
              value={typed.name}
              onChange={(e) => setTyped({ ...typed, name: e.target.value })}
            />
            <PickField
              label={t.port}
              value={typed.port}
              options={t.ports}
              onChange={(port) => setTyped({ ...typed, port })}
              width={190}
            />
            <TextField
              label={t.address}
              required
              helperText={t.addressHelp[typed.port]}
              value={typed.address}
              onChange={(e) => setTyped({ ...typed, address: e.target.value })}
              sx={{ width: 260 }}
            />
            {typed.port === 'serial' && (
              <NumberField
                label={t.baud}
                {...ranges.Instrument.baud}
                whole
                value={typed.baud}
                onChange={(baud) => setTyped({ ...typed, baud })}
                width={130}
              />
            )}
            <Button type="submit" variant="contained" disabled={add.isPending}>
              {t.read}
            </Button>
            <Button onClick={() => setTyped(undefined)}>{w.common.cancel}</Button>
          </Row>
        </form>
      )}
    </Box>
  );
}

const usualBaud = 9600;

/** An instrument in lines, for holding two against each other. */
const linesOf = (i: Instrument): string[] => [
  i.name,
  `${t.ports[i.port]} · ${i.address}`,
  ...i.scales.map(
    (s) => `${t.quantities[s.quantity]}: ${s.reversed ? `${t.reversed}, ` : ''}${plain(s.offset)}`,
  ),
];
