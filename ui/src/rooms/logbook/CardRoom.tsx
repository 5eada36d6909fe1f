import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { answer, client, type Finish, type StonePage } from '../../api/client';
import { stoneQuery, stonesKey } from '../../api/queries';
import { Conflict } from '../../parts/Conflict';
import { Await, PageHead } from '../../parts/Page';
import { Thumbnail } from '../../parts/Thumbnail';
import { Refusal } from '../../parts/Refusal';
import { useSaveOver } from '../../parts/useSaveOver';
import { angle, carats, date, hours, mm, parseNumber } from '../../words/numbers';
import { w } from '../../words/words';
import { yieldOf } from './CardFigures';

/** Writes a stone's logbook card, or corrects it. */
export function CardRoom() {
  const { id = '' } = useParams();
  const stone = useQuery({ ...stoneQuery(id), refetchOnMount: 'always' });
  return <Await query={stone}>{(page) => <Card key={page.summary.id} page={page} />}</Await>;
}

/** The card as it is typed. */
type Typed = Record<
  'rough' | 'weight' | 'width' | 'length' | 'height' | 'started' | 'finished' | 'hours' | 'notes',
  string
>;

function typedOf(page: StonePage): Typed {
  const f = page.summary.finish;
  const figure = (v: number | undefined) => (v ? plain(v) : '');
  return {
    // What a recut begins with is the stone itself.
    rough: figure(f?.roughCarats ?? page.before?.carats),
    weight: figure(f?.finishedCarats),
    width: figure(f?.widthMM),
    length: figure(f?.lengthMM),
    height: figure(f?.heightMM),
    started: f?.started ?? date(page.began ?? page.summary.created),
    finished: f?.finished ?? date(page.summary.lastEvent),
    hours: f?.hours === null || f?.hours === undefined ? '' : angle(f.hours),
    notes: f?.notes ?? '',
  };
}

/** A weight or size as it is put back into its field. */
const plain = (v: number) => String(Math.round(v * 1000) / 1000);

function read(t: Typed, version: number): Finish {
  const figure = (text: string) => parseNumber(text) ?? 0;
  return {
    version,
    roughCarats: figure(t.rough),
    finishedCarats: figure(t.weight),
    widthMM: figure(t.width),
    lengthMM: figure(t.length),
    heightMM: figure(t.height),
    started: t.started,
    finished: t.finished,
    hours: parseNumber(t.hours) ?? null,
    notes: t.notes,
    saved: new Date(0).toISOString(),
  };
}

function Card({ page }: { page: StonePage }) {
  const { summary: s, assessment: a } = page;
  const l = w.logbook;
  const [typed, setTyped] = useState(() => typedOf(page));
  const navigate = useNavigate();
  const queries = useQueryClient();
  const at = { params: { path: { id: s.id } } };
  const saving = useSaveOver({
    write: (card: Typed, version) =>
      answer(client.PUT('/api/stones/{id}/finish', { ...at, body: read(card, version) })),
    reread: () => answer(client.GET('/api/stones/{id}', at)),
    versionOf: (p) => p.summary.finish!.version,
    onSaved: async () => {
      await queries.invalidateQueries({ queryKey: stonesKey });
      void navigate(`/stones/${s.id}`);
    },
    onTheirs: (p) => {
      queries.setQueryData(stoneQuery(s.id).queryKey, p);
      setTyped(typedOf(p));
    },
  });
  const unreadable = (t: string) => t.trim() !== '' && parseNumber(t) === undefined;
  const bad = [
    typed.rough,
    typed.weight,
    typed.width,
    typed.length,
    typed.height,
    typed.hours,
  ].some(unreadable);
  const field = (name: keyof Typed, label: string, unit?: string, helper?: string) => (
    <TextField
      label={unit ? `${label} (${unit})` : label}
      value={typed[name]}
      onChange={(e) => setTyped({ ...typed, [name]: e.target.value })}
      error={unit !== undefined && unreadable(typed[name])}
      helperText={helper}
      slotProps={{ htmlInput: { inputMode: unit ? 'decimal' : undefined } }}
    />
  );
  return (
    <>
      <PageHead title={`${s.number} · ${s.name || s.diagram}`} facts={[l.cardTitle, s.material]}>
        <Button onClick={() => void navigate(`/stones/${s.id}`)}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={bad || saving.isPending}
          onClick={() => saving.save(typed, s.finish?.version ?? 0)}
        >
          {l.keep}
        </Button>
      </PageHead>
      <Box
        sx={{
          p: 6,
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', sm: 'repeat(3, 1fr)' },
          gap: 4,
          maxWidth: 860,
        }}
      >
        {field('rough', l.roughCarats, w.units.ct)}
        {field('weight', l.finishedCarats, w.units.ct, l.planned(carats(a.carats)))}
        <Box sx={{ alignSelf: 'center' }}>
          <Typography color="text.secondary">{l.yield}</Typography>
          <Typography variant="figures">{bad ? '–' : yieldOf(read(typed, 0))}</Typography>
        </Box>
        {field('width', w.stones.width, w.units.mm, l.planned(mm(a.width)))}
        {field('length', w.stones.length, w.units.mm, l.planned(mm(a.length)))}
        {field('height', w.stones.height, w.units.mm, l.planned(mm(a.height)))}
        {field('started', l.started)}
        {field('finished', l.finishedOn)}
        {field('hours', l.hoursLabel, w.units.hours, l.reckoned(hours(page.reckoned)))}
        <TextField
          label={l.notes}
          value={typed.notes}
          onChange={(e) => setTyped({ ...typed, notes: e.target.value })}
          multiline
          minRows={3}
          sx={{ gridColumn: '1 / -1' }}
        />
        <Thumbnail hash={s.picture} size={200} />
        <Box sx={{ gridColumn: '1 / -1' }}>
          <Refusal error={saving.error} />
        </Box>
      </Box>
      {saving.theirs && (
        <Conflict
          mine={tell(typed)}
          theirs={tell(typedOf(saving.theirs))}
          onMine={saving.keepMine}
          onTheirs={saving.takeTheirs}
        />
      )}
    </>
  );
}

function tell(t: Typed): string[] {
  return Object.entries(t).map(([name, value]) => `${name}: ${value}`);
}
