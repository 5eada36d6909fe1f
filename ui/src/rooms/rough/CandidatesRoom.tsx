import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { libraryQuery } from '../../api/diagrams';
import {
  chooseCandidate,
  pieceQuery,
  solidQuery,
  type Candidate,
  type Piece,
} from '../../api/rough';
import { usualQuery } from '../../api/settings';
import { Refusal } from '../../parts/forms/Refusal';
import { Await, Care, Empty, Figures, PageHead } from '../../parts/Page';
import type { Camera } from '../../parts/stone/geometry';
import { carats, mm, money, percent, sizes } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { Face } from './Face';
import { FittingButton, FittingState, useFitting } from './Fitting';
import { askew } from './PieceInRound';
import { PieceTurned } from './PieceTurned';
import { limitsOf, searchRounds } from './limits';
import { Prices } from './Prices';
import { placed } from './space';

const r = roughWords.beside;
const f = roughWords.fit;

/** What can come of a piece, side by side and turned together. */
export function CandidatesRoom() {
  const { id = '' } = useParams();
  const piece = useQuery(pieceQuery(id));
  return <Await query={piece}>{(p) => <Room key={p.id} piece={p} />}</Await>;
}

function Room({ piece }: { piece: Piece }) {
  const [camera, setCamera] = useState<Camera>(askew);
  const found = piece.candidates.filter((c) => c.place);
  return (
    <>
      <PageHead
        title={r.title}
        facts={[
          roughWords.named(piece.number, piece.rough.name),
          piece.rough.material,
          carats(piece.carats),
          piece.cost > 0 ? r.cost(money(piece.cost, piece.currency)) : '',
        ]}
      >
        <Button component={Link} to={`/rough/${piece.id}`}>
          {r.back}
        </Button>
      </PageHead>
      {found.length === 0 && (
        <Empty text={r.none}>
          <Button component={Link} to={`/rough/${piece.id}`} variant="contained">
            {r.back}
          </Button>
        </Empty>
      )}
      <Box
        role="list"
        aria-label={r.title}
        sx={{
          display: 'grid',
          gridAutoFlow: 'column',
          gridAutoColumns: 'minmax(270px, 1fr)',
          overflowX: 'auto',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        {found.map((c) => (
          <Beside key={c.id} piece={piece} candidate={c} camera={camera} onCamera={setCamera} />
        ))}
      </Box>
      <Box
        sx={{
          p: 4,
          display: 'grid',
          gap: 6,
          gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
          alignItems: 'start',
        }}
      >
        <Prices piece={piece} />
        <LookFor piece={piece} />
      </Box>
    </>
  );
}

interface BesideProps {
  piece: Piece;
  candidate: Candidate;
  camera: Camera;
  onCamera: (change: (before: Camera) => Camera) => void;
}

/** One candidate: the stone in the piece, its face under light, and its figures. */
function Beside({ piece, candidate: c, camera, onCamera }: BesideProps) {
  const { data: solid } = useQuery(solidQuery(c.revision));
  const choice = useMutation(chooseCandidate);
  return (
    <Box
      role="listitem"
      aria-label={c.name}
      sx={{
        p: 3,
        borderRight: 1,
        borderColor: 'divider',
        background: (t) => (c.chosen ? t.tokens.sheet : 'none'),
      }}
    >
      <Typography variant="h2" noWrap>
        {c.name}
      </Typography>
      <PieceTurned
        label={r.drawn(c.name)}
        kept={piece.worked.kept}
        stone={solid && placed(solid, c.place!)}
        camera={camera}
        onCamera={onCamera}
        height={170}
      />
      <Face rough={piece.rough} candidate={c} height={150} />
      {c.stale && <Care>{f.stale}</Care>}
      <Figures
        rows={[
          [f.size, sizes(c.length, c.width)],
          [f.weight, carats(c.carat)],
          [f.yield, percent(c.yield)],
          ...(c.worth !== null
            ? ([
                [r.value, money(c.worth, piece.currency)],
                ...(piece.cost > 0
                  ? [[r.over, money(c.worth - piece.cost, piece.currency)] as [string, string]]
                  : []),
              ] as [string, string][])
            : []),
          [f.limits, limitsOf(c.limitedBy)],
          [r.bound, mm(c.bound)],
        ]}
      />
      <Refusal error={choice.error} />
      <Box sx={{ mt: 2 }}>
        {c.chosen ? (
          <Typography>
            <strong>{f.chosen}</strong> {c.why}
          </Typography>
        ) : (
          <Button
            variant="outlined"
            aria-label={r.choose(c.name)}
            onClick={() => choice.mutate({ id: piece.id, candidate: c.id, why: c.why })}
          >
            {f.choose}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** A search for diagrams that are named, beside the one for all of them. */
function LookFor({ piece }: { piece: Piece }) {
  const [text, setText] = useState('');
  const [chosen, choose] = useState<{ id: string; name: string }[]>([]);
  const library = useInfiniteQuery(libraryQuery({ kept: true, text, sort: 'name' }));
  const work = useFitting(piece.id);
  const options = (library.data?.pages ?? [])
    .flatMap((p) => p.diagrams)
    .map((d) => ({ id: d.id, name: d.facts!.name }));
  const usual = useQuery(usualQuery).data;
  const allowance = piece.candidates[0]?.allowance ?? usual?.allowance;
  return (
    <Box component="section" aria-label={r.lookFor}>
      <Typography variant="h2" gutterBottom>
        {r.lookFor}
      </Typography>
      <Autocomplete
        multiple
        options={options}
        value={chosen}
        inputValue={text}
        filterOptions={(all) => all}
        getOptionLabel={(d) => d.name}
        getOptionKey={(d) => d.id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        onChange={(_, list) => choose(list)}
        onInputChange={(_, typed) => setText(typed)}
        renderInput={(props) => <TextField {...props} label={r.diagrams} />}
      />
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mt: 2, minHeight: 44 }}>
        <FittingButton
          work={work}
          label={r.look}
          disabled={chosen.length === 0 || allowance === undefined}
          onStart={() =>
            allowance !== undefined &&
            work.start({
              diagrams: chosen.map((d) => d.id),
              allowance,
              costs: false,
              rounds: searchRounds,
            })
          }
        />
        <FittingState work={work} />
      </Box>
      <Refusal error={work.error} />
    </Box>
  );
}
