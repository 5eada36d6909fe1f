import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import {
  addOtherSide,
  dropItem,
  itemQuery,
  nothing,
  tellItem,
  undoTold,
  type ItemPage,
} from '../../api/kit';
import { recipesForQuery } from '../../api/trials';
import { Thing } from '../../parts/kit/Thing';
import { MenuButton } from '../../parts/MenuButton';
import { useNotice } from '../../parts/notice';
import { Await, Care, Figures } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { TextLink } from '../../parts/TextLink';
import { kitWords as k } from '../../words/kit';
import { day, dayOf, duration, micron, mm, moment, plain } from '../../words/numbers';
import { TellDialog, type Telling } from './TellDialog';
import { ThingDialog } from './ThingDialog';

/** A thing of the kit: what it is, what is left, what is on it, what it has done. */
export function ThingPanel({ id, onClose }: { id: string; onClose: () => void }) {
  const page = useQuery(itemQuery(id));
  return <Await query={page}>{(p) => <Panel page={p} onClose={onClose} />}</Await>;
}

function Panel({ page: p, onClose }: { page: ItemPage; onClose: () => void }) {
  const [telling, setTelling] = useState<Telling>();
  const [changing, setChanging] = useState(false);
  const say = useNotice();
  const tell = useMutation(tellItem);
  const drop = useMutation(dropItem);
  const undo = useMutation(undoTold);
  const other = useMutation(addOtherSide);
  const { item } = p;
  const take = (kind: 'gone' | 'back') => tell.mutate({ ...nothing, id: item.id, kind });
  const caution =
    k.caution[item.adhesive?.sort ?? ''] ??
    k.caution[item.kind === 'compound' ? 'powder' : item.kind];
  return (
    <Box component="section" aria-label={item.name}>
      <Box sx={{ display: 'flex', gap: 4, alignItems: 'center' }}>
        <Thing
          of={p}
          largest={item.lap?.diameter ?? item.dop?.diameter ?? 1}
          size={132}
          aside={p.gone}
        />
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h2" sx={{ overflowWrap: 'anywhere' }}>
            {item.name}
          </Typography>
          <Typography color="text.secondary">{p.gone ? k.gone : k.kinds[item.kind]}</Typography>
          <Button size="small" onClick={onClose}>
            {k.close}
          </Button>
        </Box>
      </Box>
      {p.needs
        .filter((n) => n.need !== 'dirty')
        .map((n) => (
          <Care key={n.need} grave={n.grave}>
            {n.text}
          </Care>
        ))}
      {p.on.length > 0 && <Dirt page={p} onClean={() => setTelling('clean')} />}
      <Deeds page={p} onTell={setTelling} onTake={take} />
      <Refusal error={tell.error ?? drop.error ?? undo.error ?? other.error} />
      <Figures rows={figures(p)} />
      {item.note && <Typography sx={{ my: 3, whiteSpace: 'pre-wrap' }}>{item.note}</Typography>}
      {caution && <Care>{caution}</Care>}
      <Box sx={{ display: 'flex', gap: 2, my: 3, flexWrap: 'wrap' }}>
        <Button onClick={() => setChanging(true)}>{k.change}</Button>
        {item.lap?.side === '' && (
          <Button
            onClick={() =>
              other.mutate(item.id, {
                onSuccess: (made) => say({ text: k.adding.added(made.item.name) }),
              })
            }
          >
            {k.otherSide}
          </Button>
        )}
        {p.allFacets === 0 && (
          <Button
            onClick={() =>
              drop.mutate(item.id, {
                onSuccess: () => {
                  say({ text: k.dropped(item.name) });
                  onClose();
                },
              })
            }
          >
            {k.drop}
          </Button>
        )}
      </Box>
      {item.lap && <HowTo lap={item.id} />}
      {p.met.length > 0 && (
        <Part head={k.met}>
          <Sheet dense head={k.metHead}>
            {p.met.map((m) => (
              <tr key={m.material + m.with}>
                <td>{m.material}</td>
                <td>{m.with}</td>
                <td className="figure">{m.stones}</td>
                <td className="figure">{day(m.last)}</td>
              </tr>
            ))}
          </Sheet>
        </Part>
      )}
      {p.usedOn.length > 0 && (
        <Part head={k.usedOn}>
          {p.usedOn.map((s) => (
            <Typography key={s.id + s.last}>
              <TextLink to={`/stones/${s.id}`}>
                {s.number} · {s.name || s.material}
              </TextLink>{' '}
              <Typography component="span" variant="body2" color="text.secondary">
                {k.work(1, s.facets).split(' · ')[1]}
              </Typography>
            </Typography>
          ))}
        </Part>
      )}
      {p.history.length > 0 && (
        <Part head={k.history}>
          {p.history.map((h) => (
            <Box key={h.id} sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
              <Typography sx={{ flexGrow: 1 }}>
                {h.text}
                <Typography component="span" variant="body2" color="text.secondary">
                  {' '}
                  {moment(h.at)}
                  {h.by && ` · ${h.by}`}
                </Typography>
              </Typography>
              <Button
                size="small"
                aria-label={`${k.takeBack}: ${h.text}`}
                onClick={() =>
                  undo.mutate(
                    { id: item.id, event: h.id },
                    { onSuccess: () => say({ text: k.takenBack }) },
                  )
                }
              >
                {k.takeBack}
              </Button>
            </Box>
          ))}
        </Part>
      )}
      {telling && <TellDialog page={p} telling={telling} onClose={() => setTelling(undefined)} />}
      {changing && <ThingDialog item={item} onClose={() => setChanging(false)} />}
    </Box>
  );
}

function Part({ head, children }: { head: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={head} sx={{ mt: 4 }}>
      <Typography variant="h3" gutterBottom>
        {head}
      </Typography>
      {children}
    </Box>
  );
}

/** The recipes for such a lap. */
function HowTo({ lap }: { lap: string }) {
  const { data } = useQuery(recipesForQuery(lap, 0));
  if (!data?.recipes.length) return null;
  return (
    <Part head={k.recipes.howTo}>
      {data.recipes.map(({ recipe }) => (
        <Typography key={recipe.id}>
          <TextLink to={`/kit?show=recipes&recipe=${recipe.id}&lap=${lap}`}>{recipe.name}</TextLink>
        </Typography>
      ))}
    </Part>
  );
}

/** What is on a lap, and the mildest way that takes all of it off. */
function Dirt({ page: p, onClean }: { page: ItemPage; onClean: () => void }) {
  const way = p.ways[0];
  return (
    <Care>
      {p.on.map((text) => (
        <Typography key={text}>{text}</Typography>
      ))}
      {way && <Typography sx={{ my: 1 }}>{way.text}</Typography>}
      {way && way.way !== 'renew' && (
        <Button size="small" variant="outlined" onClick={onClean}>
          {k.clean}
        </Button>
      )}
    </Care>
  );
}

interface DeedsProps {
  page: ItemPage;
  onTell: (t: Telling) => void;
  onTake: (kind: 'gone' | 'back') => void;
}

/** What can happen to a thing. */
function Deeds({ page: p, onTell, onTake }: DeedsProps) {
  const { item } = p;
  if (p.gone)
    return (
      <Button sx={{ my: 3 }} onClick={() => onTake('back')}>
        {k.do.back}
      </Button>
    );
  const renewed = k.do.renew[item.kind as keyof typeof k.do.renew] ?? k.do.renew.other;
  return (
    <Box sx={{ display: 'flex', gap: 2, my: 3, flexWrap: 'wrap' }}>
      {item.lap && (
        <Button variant="outlined" onClick={() => onTell('clean')}>
          {k.do.clean}
        </Button>
      )}
      {item.lap && item.lap.grain === 0 && (
        <Button variant="outlined" onClick={() => onTell('charge')}>
          {k.do.charge}
        </Button>
      )}
      {!item.lap && item.kind !== 'gear' && (
        <Button variant="outlined" onClick={() => onTell('count')}>
          {k.do.count}
        </Button>
      )}
      {!item.lap && item.kind !== 'gear' && item.kind !== 'dop' && (
        <Button variant="outlined" onClick={() => onTell('renew')}>
          {renewed}
        </Button>
      )}
      <MenuButton
        label={k.more}
        entries={[
          ...(item.lap
            ? [
                { label: k.do.touch, run: () => onTell('touch') },
                { label: renewed, run: () => onTell('renew') },
                { label: k.do.count, run: () => onTell('count') },
              ]
            : []),
          { label: k.do.gone, run: () => onTake('gone') },
        ]}
      />
    </Box>
  );
}

/** The figures of a thing, as far as it has them. */
function figures(p: ItemPage): [string, ReactNode][] {
  const { item } = p;
  const f = k.figures;
  const grain = p.grain || item.compound?.grain;
  const rows: [string, ReactNode | false | undefined | null | ''][] = [
    [f.grain, grain ? micron(grain) : ''],
    [f.charge, p.charge && `${p.charge.name}, ${day(p.charge.at)}`],
    [f.carrier, item.compound?.carrier],
    [f.left, p.left !== null && `${plain(Math.round(100 * p.left))} %`],
    [f.since, p.facets > 0 && k.work(p.stones, p.facets)],
    [f.all, p.allFacets > p.facets && k.work(p.allStones, p.allFacets)],
    [f.lasts, p.goodFor > 0 && k.lasts(plain(p.goodFor), p.learnedFrom)],
    [f.used, p.used && day(p.used)],
    [f.have, p.have !== null && `${plain(p.have)} ${item.unit}`],
    [f.opened, p.opened && dayOf(p.opened)],
    [f.until, p.until && dayOf(p.until)],
    [f.cures, item.adhesive && duration(item.adhesive.minutes)],
    [f.size, item.lap ? mm(item.lap.diameter) : item.dop ? mm(item.dop.diameter) : ''],
    [f.area, p.area > 0 && `${plain(p.area)} cm²`],
    [f.kerf, item.blade && mm(item.blade.kerf)],
    [f.keptFor, item.lap?.keptFor],
    [f.flat, p.flatness !== null && micron(p.flatness)],
  ];
  return rows.filter((row): row is [string, ReactNode] => Boolean(row[1]));
}
