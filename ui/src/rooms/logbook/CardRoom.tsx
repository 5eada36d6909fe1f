import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { StonePage } from '../../api/client';
import { ranges } from '../../api/ranges';
import {
  asCutQuery,
  cardRecord,
  rereadStones,
  stoneQuery,
  storeStone,
  type Card,
} from '../../api/stones';
import { remember, remembered } from '../../log/remember';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { WeightField, type WeightUnit } from '../../parts/fields/WeightField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Await, PageHead } from '../../parts/Page';
import { Thumbnail } from '../../parts/Thumbnail';
import { Refusal } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { carats, date, hours, mm, money, plain } from '../../words/numbers';
import { w } from '../../words/words';
import { asCutWords } from '../../words/asCut';
import { cardWords } from '../../words/card';
import { photoWords } from '../../words/photos';
import { yieldOf } from '../../parts/work/CardFigures';
import { AsCutList, AsCutStones } from '../../parts/work/AsCut';
import { Photos } from '../../parts/work/Photos';
import { StepList } from '../../parts/work/StepList';

/** Whether weights are typed in carats or in grams. */
const unitKey = 'cressa-weights-in';

/** Writes a stone's logbook card, or corrects it. */
export function CardRoom() {
  const { id = '' } = useParams();
  const stone = useQuery(stoneQuery(id));
  return <Await query={stone}>{(page) => <CardForm key={page.summary.id} page={page} />}</Await>;
}

/** What stands on the card, or what it begins with. A weight or size that was not taken is 0. */
function cardOf(page: StonePage): Card {
  if (page.summary.finish) return page.summary.finish;
  return {
    // What a recut begins with is the stone itself.
    roughCarats: page.before?.carats ?? 0,
    finishedCarats: 0,
    widthMM: 0,
    lengthMM: 0,
    heightMM: 0,
    started: date(page.began ?? page.summary.created),
    finished: date(page.summary.lastEvent),
    hours: null,
    notes: '',
    price: 0,
    currency: page.source?.currency ?? '',
  };
}

/** A currency as it is kept, '' for one that is none. */
const wholeCurrency = (typed: string): string => (/^[A-Z]{3}$/.test(typed) ? typed : '');

type Weight = 'roughCarats' | 'finishedCarats';
type Length = 'widthMM' | 'lengthMM' | 'heightMM';

/** The figures of a card: how they are called and what they are measured in. */
const figures: Record<Weight | Length, [label: string, unit: string]> = {
  roughCarats: [w.logbook.roughCarats, w.units.ct],
  finishedCarats: [w.logbook.finishedCarats, w.units.ct],
  widthMM: [w.stones.width, w.units.mm],
  lengthMM: [w.stones.length, w.units.mm],
  heightMM: [w.stones.height, w.units.mm],
};

/** A card in lines, for holding two against each other. */
const linesOf = (c: Card): string[] => [
  ...Object.entries(figures).map(
    ([name, [label, unit]]) => `${label}: ${plain(c[name as Weight])} ${unit}`,
  ),
  `${w.logbook.started}: ${c.started}`,
  `${w.logbook.finishedOn}: ${c.finished}`,
  `${w.logbook.hoursLabel}: ${c.hours === null ? '–' : hours(c.hours)}`,
  `${w.logbook.notes}: ${c.notes}`,
  `${cardWords.price}: ${c.price > 0 ? money(c.price, wholeCurrency(c.currency)) : '–'}`,
];

function CardForm({ page }: { page: StonePage }) {
  const { summary: s, assessment: a } = page;
  const l = w.logbook;
  const [card, setCard] = useState(() => cardOf(page));
  const set = (change: Partial<Card>) => setCard({ ...card, ...change });
  const cut = useQuery(asCutQuery(s.id, s.workId, '', s.done));
  const [chosen, choose] = useState<number>();
  const { readable, report } = useReadable();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const saving = useSaveOver(cardRecord(s.id), {
    onSaved: async () => {
      await rereadStones(queries);
      void navigate(`/stones/${s.id}`);
    },
    onTheirs: (theirs) => {
      storeStone(queries, theirs);
      setCard(cardOf(theirs));
    },
  });
  const [unit, setUnit] = useState((remembered(unitKey) ?? 'ct') as WeightUnit);
  const weight = (name: Weight, help?: string) => (
    <WeightField
      label={figures[name][0]}
      {...ranges.Finish[name]}
      value={card[name]}
      unit={unit}
      onChange={(v) => set({ [name]: v })}
      help={help}
    />
  );
  const length = (name: Length, help?: string) => {
    const [label, mmUnit] = figures[name];
    return (
      <NumberField
        label={`${label} (${mmUnit})`}
        {...ranges.Finish[name]}
        optional=""
        value={card[name] || undefined}
        onChange={(v) => set({ [name]: v ?? 0 })}
        help={help}
        width="100%"
      />
    );
  };
  const day = (name: 'started' | 'finished', label: string) => (
    <TextField
      type="date"
      label={label}
      value={card[name]}
      onChange={(e) => set({ [name]: e.target.value })}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
  return (
    <>
      <PageHead title={`${s.number} · ${s.name || s.diagram}`} facts={[l.cardTitle, s.material]}>
        <Button onClick={() => void navigate(`/stones/${s.id}`)}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={
            !readable || saving.isPending || (card.currency !== '' && !wholeCurrency(card.currency))
          }
          onClick={() => saving.save(card, s.finish?.version ?? 0)}
        >
          {l.keep}
        </Button>
      </PageHead>
      <Box
        component="section"
        aria-label={asCutWords.title}
        sx={{ float: { lg: 'right' }, width: { lg: 'calc(100% - 900px)' }, p: 5 }}
      >
        <Await query={cut}>
          {(of) => (
            <>
              <AsCutStones of={of} chosen={chosen} />
              <AsCutList of={of} chosen={chosen} onChoose={choose} />
            </>
          )}
        </Await>
      </Box>
      {!s.finish && (
        <Box component="section" aria-label={cardWords.steps} sx={{ px: 6, pt: 5, maxWidth: 860 }}>
          <Typography variant="h3" gutterBottom>
            {cardWords.steps}
          </Typography>
          <StepList
            steps={page.finishing}
            of={`finish/${s.workId}`}
            what={cardWords.clockOf(s.number)}
          />
        </Box>
      )}
      <FormFields value={report}>
        <Box
          sx={{
            p: 6,
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', sm: 'repeat(3, minmax(0, 1fr))' },
            gap: 4,
            maxWidth: 860,
          }}
        >
          {weight('roughCarats')}
          {weight('finishedCarats', l.planned(carats(a.carats)))}
          <Box sx={{ alignSelf: 'center' }}>
            <Typography color="text.secondary">{l.yield}</Typography>
            <Typography variant="figures">{readable ? yieldOf(card) : '–'}</Typography>
          </Box>
          {length('widthMM', l.planned(mm(a.width)))}
          {length('lengthMM', l.planned(mm(a.length)))}
          {length('heightMM', l.planned(mm(a.height)))}
          {day('started', l.started)}
          {day('finished', l.finishedOn)}
          <NumberField
            label={`${l.hoursLabel} (${w.units.hours})`}
            {...ranges.Finish.hours}
            optional=""
            value={card.hours ?? undefined}
            onChange={(v) => set({ hours: v ?? null })}
            help={l.reckoned(hours(page.reckoned))}
            width="100%"
          />
          <NumberField
            label={cardWords.price}
            unit={wholeCurrency(card.currency) || undefined}
            min={0}
            max={ranges.Finish.price.max / 100}
            optional=""
            value={card.price > 0 ? card.price / 100 : undefined}
            onChange={(v) => set({ price: Math.round((v ?? 0) * 100) })}
            help={cardWords.priceHelp}
            width="100%"
          />
          <TextField
            label={cardWords.currency}
            value={card.currency}
            onChange={(e) => set({ currency: e.target.value.toUpperCase().slice(0, 3) })}
            error={card.currency !== '' && !wholeCurrency(card.currency)}
            helperText={cardWords.currencyHelp}
          />
          <TextField
            label={l.notes}
            value={card.notes}
            onChange={(e) => set({ notes: e.target.value })}
            multiline
            minRows={3}
            sx={{ gridColumn: '1 / -1' }}
          />
          <Box sx={{ gridColumn: { sm: 'span 2' } }}>
            <Thumbnail hash={s.picture} size={200} />
          </Box>
          <PickField
            label={l.weightsIn}
            value={unit}
            options={l.weightUnits}
            onChange={(u) => {
              remember(unitKey, u);
              setUnit(u);
            }}
            width="100%"
          />
          <Box sx={{ gridColumn: '1 / -1' }}>
            <Photos stone={s.id} photos={page.photos} shows="after" head={photoWords.photos} />
          </Box>
          <Box sx={{ gridColumn: '1 / -1' }}>
            <Refusal error={saving.error} />
          </Box>
        </Box>
      </FormFields>
      <SaveConflict
        saving={saving}
        mine={linesOf(card)}
        linesOf={(theirs) => linesOf(cardOf(theirs))}
      />
    </>
  );
}
