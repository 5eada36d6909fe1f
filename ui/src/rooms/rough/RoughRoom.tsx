import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  parcelsQuery,
  piecesQuery,
  type ParcelLine,
  type PieceFilter,
  type PieceLine,
} from '../../api/rough';
import { PickField } from '../../parts/fields/PickField';
import { useKeys } from '../../parts/keys';
import { More } from '../../parts/More';
import { Await, Empty, PageHead } from '../../parts/Page';
import { useFilter } from '../../parts/useFilter';
import { carats, dayOf, grams, money, sizes } from '../../words/numbers';
import { roughWords as r } from '../../words/rough';
import { w } from '../../words/words';
import { AddPiece } from './AddPiece';
import { ParcelDialog } from './ParcelDialog';
import { PieceSmall } from './PieceDrawn';
import { askew } from './PieceInRound';

const noFilter = { text: '', fate: '' };

/** All rough there is, by the parcels that it came in. */
export function RoughRoom() {
  const [filter, change] = useFilter(noFilter);
  const pieces = useInfiniteQuery(piecesQuery(filter as PieceFilter));
  const parcels = useQuery(parcelsQuery);
  const [open, setOpen] = useState<'piece' | 'parcel'>();
  useKeys([{ keys: ['n'], label: r.add, run: () => setOpen('piece') }]);
  const total = pieces.data?.pages.at(-1)!.total;
  return (
    <>
      <PageHead title={r.title} facts={total === undefined ? [] : r.facts(total)}>
        <Button onClick={() => setOpen('parcel')}>{r.parcel}</Button>
        <Button variant="contained" onClick={() => setOpen('piece')}>
          {r.add}
        </Button>
      </PageHead>
      <Await query={pieces}>
        {({ pages }) => {
          const list = pages.flatMap((p) => p.pieces);
          if (list.length === 0 && filter.text === '' && filter.fate === '')
            return (
              <Empty text={r.empty}>
                <Button variant="contained" onClick={() => setOpen('piece')}>
                  {r.add}
                </Button>
              </Empty>
            );
          return (
            <>
              <Box sx={{ display: 'flex', gap: 3, px: 6, py: 3, flexWrap: 'wrap' }} role="search">
                <TextField
                  label={r.search}
                  value={filter.text}
                  onChange={(e) => change({ text: e.target.value })}
                  sx={{ width: 360 }}
                />
                <PickField
                  label={r.fate}
                  value={filter.fate}
                  options={{ '': r.anyFate, ...r.fates }}
                  onChange={(fate) => change({ fate })}
                  width={190}
                />
              </Box>
              {list.length === 0 ? (
                <Empty text={r.noMatch}>
                  <Button onClick={() => change(noFilter)}>{w.diagrams.clear}</Button>
                </Empty>
              ) : (
                <Parcels pieces={list} parcels={parcels.data ?? []} />
              )}
              <More query={pieces} shown={list.length} total={pages.at(-1)!.total} />
            </>
          );
        }}
      </Await>
      {open === 'piece' && (
        <AddPiece parcels={parcels.data ?? []} onClose={() => setOpen(undefined)} />
      )}
      {open === 'parcel' && <ParcelDialog onClose={() => setOpen(undefined)} />}
    </>
  );
}

/** Pieces by their parcels: the last bought first, what came without a parcel last. */
function Parcels({ pieces, parcels }: { pieces: PieceLine[]; parcels: ParcelLine[] }) {
  const [changing, setChanging] = useState<ParcelLine>();
  const groups = [
    ...parcels.map((p) => ({ parcel: p, list: pieces.filter((l) => l.parcel === p.id) })),
    { parcel: undefined, list: pieces.filter((l) => !parcels.some((p) => p.id === l.parcel)) },
  ].filter((g) => g.list.length > 0);
  return (
    <>
      {groups.map(({ parcel, list }) => (
        <Box
          component="section"
          key={parcel?.id ?? ''}
          aria-label={parcel?.name ?? r.loose}
          sx={{ px: 6, pb: 5 }}
        >
          <Box sx={{ borderBottom: 1, borderColor: 'divider', mb: 2, pb: 1 }}>
            <Typography variant="h2" component="h2" sx={{ display: 'inline', mr: 3 }}>
              {parcel?.name ?? r.loose}
            </Typography>
            {parcel && (
              <Typography component="span" color="text.secondary">
                {factsOf(parcel).join(' · ')}
              </Typography>
            )}
            {parcel && (
              <Button size="small" sx={{ ml: 2 }} onClick={() => setChanging(parcel)}>
                {r.parcelForm.change}
              </Button>
            )}
            {parcel &&
              (['promised', 'came'] as const).map(
                (what) =>
                  parcel[what] && (
                    <Typography key={what} variant="body2" color="text.secondary">
                      {r.promisedAndCame[what]}: {parcel[what]}
                    </Typography>
                  ),
              )}
          </Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
            {list.map((p) => (
              <PieceTile key={p.id} piece={p} />
            ))}
          </Box>
        </Box>
      ))}
      {changing && <ParcelDialog parcel={changing} onClose={() => setChanging(undefined)} />}
    </>
  );
}

const factsOf = (p: ParcelLine): string[] =>
  [
    p.source,
    p.lot && r.parcelFacts.lot(p.lot),
    p.bought && dayOf(p.bought),
    r.parcelFacts.pieces(p.pieces),
    carats(p.carats),
    p.total > 0 ? r.parcelFacts.cost(money(p.total, p.currency)) : '',
  ].filter(Boolean);

/** A piece, drawn, with what is known of it and what can come of it. */
function PieceTile({ piece: p }: { piece: PieceLine }) {
  return (
    <Box
      component={Link}
      to={`/rough/${p.id}`}
      sx={{
        width: 232,
        p: 2,
        border: 1,
        borderColor: 'divider',
        borderRadius: '2px',
        color: 'text.primary',
        textDecoration: 'none',
        opacity: p.fate === 'gone' ? 0.6 : 1,
        '&:hover': { background: (t) => t.tokens.sheet },
      }}
    >
      <PieceSmall kept={p.kept} camera={askew} height={132} />
      <Box sx={{ fontWeight: 600, overflowWrap: 'anywhere' }}>{r.named(p.number, p.name)}</Box>
      <Box>{p.material}</Box>
      <Typography variant="figures" component="div" sx={{ fontSize: '0.875rem' }}>
        {carats(p.carats)} · {grams(p.carats)}
      </Typography>
      <Typography
        variant="figures"
        component="div"
        sx={{ fontSize: '0.8125rem', whiteSpace: 'nowrap' }}
      >
        {sizes(p.size.x, p.size.y, p.size.z)}
      </Typography>
      <Typography variant="body2" component="div" color="text.secondary">
        {p.fate === 'whole' ? r.flaws(p.flaws) : r.fates[p.fate]}
      </Typography>
      <Typography variant="body2" component="div" color={p.best ? 'primary' : 'text.secondary'}>
        {!p.best
          ? r.notSearched
          : p.best.place
            ? r.best(p.best.name, carats(p.best.carat))
            : r.noRoom}
      </Typography>
    </Box>
  );
}
