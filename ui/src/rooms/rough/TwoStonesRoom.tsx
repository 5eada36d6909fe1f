import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Usual } from '../../api/client';
import { ranges } from '../../api/ranges';
import { reread } from '../../api/refresh';
import {
  pieceQuery,
  pieceRecord,
  roughKey,
  solidQuery,
  splitsOf,
  type Piece,
  type Split,
  type SplitLine,
} from '../../api/rough';
import { usualQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Await, Figures, PageHead } from '../../parts/Page';
import { ProgressLine } from '../../parts/ProgressLine';
import type { Camera } from '../../parts/stone/geometry';
import { useLongWork } from '../../parts/useLongWork';
import { carats, mm, money } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { splitWords as k } from '../../words/variants';
import { FittingButton } from './Fitting';
import { formOf } from './form';
import { askew } from './PieceInRound';
import { PieceTurned } from './PieceTurned';
import { placed } from './space';

/** Two stones out of one piece: saw cuts that are proposed, and what each is worth beside one stone. */
export function TwoStonesRoom() {
  const { id = '' } = useParams();
  const piece = useQuery(pieceQuery(id));
  const usual = useQuery(usualQuery);
  return (
    <Await query={piece}>
      {(p) => <Await query={usual}>{(u) => <Room key={p.id} piece={p} usual={u} />}</Await>}
    </Await>
  );
}

const latest = (_: SplitLine | undefined, line: SplitLine) => line;

function Room({ piece, usual }: { piece: Piece; usual: Usual }) {
  const [camera, setCamera] = useState<Camera>(askew);
  const [allowance, setAllowance] = useState(piece.candidates[0]?.allowance ?? usual.allowance);
  const [kerf, setKerf] = useState(usual.kerf);
  const work = useLongWork(splitsOf(piece.id), latest);
  const found = work.state?.found ?? [];
  return (
    <>
      <PageHead
        title={k.title}
        facts={[
          roughWords.named(piece.number, piece.rough.name),
          piece.rough.material,
          carats(piece.carats),
        ]}
      >
        <Button component={Link} to={`/rough/${piece.id}`}>
          {k.back}
        </Button>
      </PageHead>
      <Box sx={{ p: 4, display: 'flex', gap: 4, alignItems: 'center', flexWrap: 'wrap' }}>
        <NumberField
          label={k.kerf}
          unit="mm"
          {...ranges.SplitsRequest.kerf}
          value={kerf}
          onChange={setKerf}
          width={150}
        />
        <NumberField
          label={k.allowance}
          unit="mm"
          {...ranges.SplitsRequest.allowance}
          value={allowance}
          onChange={setAllowance}
          width={150}
        />
        <FittingButton
          work={work}
          label={work.state ? k.again : k.start}
          onStart={() => work.start({ diagrams: [], allowance, kerf })}
        />
        <Box sx={{ flexGrow: 1, minWidth: 260 }}>
          {work.running && work.state ? (
            <ProgressLine
              done={work.state.done}
              total={work.state.total}
              text={k.trying(work.state.done, work.state.total)}
            />
          ) : (
            <Typography color="text.secondary" sx={{ maxWidth: 620 }}>
              {work.ended && found.length === 0 ? k.nothing : k.lead} {!work.state && k.none}
            </Typography>
          )}
        </Box>
      </Box>
      <Refusal error={work.error} />
      <Box
        role="list"
        aria-label={k.title}
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'repeat(3, minmax(0, 1fr))' },
          borderTop: 1,
          borderColor: 'divider',
        }}
      >
        {found.map((split, i) => (
          <Way
            key={`${split.trim.distance} ${split.carats}`}
            no={i + 1}
            piece={piece}
            split={split}
            camera={camera}
            onCamera={setCamera}
          />
        ))}
      </Box>
    </>
  );
}

interface WayProps {
  no: number;
  piece: Piece;
  split: Split;
  camera: Camera;
  onCamera: (change: (before: Camera) => Camera) => void;
}

/** One saw cut with its two stones, held against the best single stone. */
function Way({ no, piece, split, camera, onCamera }: WayProps) {
  // Both may be of one diagram: each asks for itself.
  const stays = useQuery(solidQuery(split.stones[0]!.revision)).data;
  const falls = useQuery(solidQuery(split.stones[1]!.revision)).data;
  const stones = [stays, falls].flatMap((solid, i) =>
    solid ? [placed(solid, split.stones[i]!.place)] : [],
  );
  return (
    <Box
      role="listitem"
      aria-label={k.way(no)}
      sx={{ p: 4, borderRight: { md: 1 }, borderColor: { md: 'divider' } }}
    >
      <Typography variant="h2">{k.way(no)}</Typography>
      <PieceTurned
        label={k.drawn(no)}
        kept={piece.worked.kept}
        stone={stones}
        camera={camera}
        onCamera={onCamera}
        height={260}
        saw={split.trim}
      />
      <Figures
        rows={[
          ...split.stones.map((s, i): [string, string] => [
            k.side[i]!,
            [
              s.name,
              mm(s.width),
              carats(s.carat),
              split.worth !== null && s.worth === null ? k.tooLight : '',
            ]
              .filter(Boolean)
              .join(', '),
          ]),
          [k.kerfCosts, carats(split.kerfCarats)],
          [k.together, carats(split.carats)],
        ]}
      />
      <Against piece={piece} split={split} />
      <Take piece={piece} split={split} no={no} />
    </Box>
  );
}

/** Two stones held against the best single one: by their worth where prices are known, else by weight. */
function Against({ piece, split }: { piece: Piece; split: Split }) {
  const one = piece.candidates.find((c) => c.place && !c.stale);
  if (!one) return null;
  const row: [string, string] = [k.one, `${one.name}, ${carats(one.carat)}`];
  const both = split.worth;
  const single = one.worth;
  if (single === null || both === null) {
    const more = split.carats - one.carat;
    return (
      <>
        <Figures rows={[row]} />
        <Typography sx={{ mt: 2 }}>
          <strong>{more > 0 ? k.heavier(carats(more)) : k.lighter(carats(-more))}</strong>
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {k.noPrice}
        </Typography>
      </>
    );
  }
  const sum = (v: number) => money(v, piece.currency);
  return (
    <>
      <Figures rows={[row, [k.value, sum(both)], [k.oneValue, sum(single)]]} />
      <Typography sx={{ mt: 2 }}>
        <strong>{k.against(both, single, sum)}</strong>
      </Typography>
    </>
  );
}

/** Puts the saw cut into the piece. */
function Take({ piece, split, no }: { piece: Piece; split: Split; no: number }) {
  const queries = useQueryClient();
  const say = useNotice();
  const go = useNavigate();
  const form = formOf(piece);
  const take = useMutation({
    mutationFn: () =>
      pieceRecord(piece.id).write(
        { ...form, rough: { ...form.rough, trims: [...form.rough.trims, split.trim] } },
        piece.version,
      ),
    onSuccess: async () => {
      await reread(queries, roughKey);
      say({ text: k.taken(piece.number) });
      void go(`/rough/${piece.id}`);
    },
  });
  return (
    <Box sx={{ mt: 3 }}>
      <Refusal error={take.error} />
      <Button variant="outlined" disabled={take.isPending} onClick={() => take.mutate()}>
        {k.take(no)}
      </Button>
    </Box>
  );
}
