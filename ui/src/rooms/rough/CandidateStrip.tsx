import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ranges } from '../../api/ranges';
import {
  chooseCandidate,
  dropCandidate,
  solidQuery,
  type Candidate,
  type Piece,
  type Rough,
  type RoughWorked,
} from '../../api/rough';
import { NumberField } from '../../parts/fields/NumberField';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Care, Figures } from '../../parts/Page';
import type { Camera } from '../../parts/stone/geometry';
import { bothWeights, carats, mm, percent, sizes } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { splitWords, variantWords } from '../../words/variants';
import { Face } from './Face';
import { FittingButton, FittingState, useFitting } from './Fitting';
import { limitsOf, searchRounds } from './limits';
import { PieceSmall } from './PieceDrawn';
import { placed } from './space';
import { StoneCard } from './StoneCard';

const r = roughWords.fit;

interface Props {
  piece: Piece;
  /** The piece as it is on screen. */
  rough: Rough;
  worked: RoughWorked;
  /** From where all are looked at, so that they turn together. */
  camera: Camera;
  shown: Candidate | undefined;
  onShow: (c: Candidate) => void;
  /** The piece on screen is not the one that is searched. */
  unsaved: boolean;
  /** What is left all round where it was not searched with another, in mm. */
  usualAllowance: number;
}

/** What was found in a piece, side by side, and the search for more. */
export function CandidateStrip({
  piece,
  usualAllowance,
  rough,
  worked,
  camera,
  shown,
  onShow,
  unsaved,
}: Props) {
  const [allowance, setAllowance] = useState(piece.candidates[0]?.allowance ?? usualAllowance);
  const work = useFitting(piece.id);
  const list = piece.candidates;
  return (
    <Box
      sx={{
        p: 4,
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 360px' },
      }}
    >
      <Box component="section" aria-label={r.title} sx={{ minWidth: 0 }}>
        <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
          <Typography variant="h2">{r.title}</Typography>
          <NumberField
            label={r.allowance}
            unit="mm"
            {...ranges.FittingRequest.allowance}
            value={allowance}
            onChange={setAllowance}
            width={150}
          />
          <FittingButton
            work={work}
            label={list.length > 0 ? r.again : r.find}
            disabled={unsaved}
            onStart={() =>
              work.start({ diagrams: [], allowance, costs: false, rounds: searchRounds })
            }
          />
          <Button component={Link} to={`/rough/${piece.id}/beside`}>
            {roughWords.beside.open}
          </Button>
          <Button component={Link} to={`/rough/${piece.id}/two`}>
            {splitWords.open}
          </Button>
          <FittingState work={work} />
        </Box>
        <Refusal error={work.error} />
        {list.length === 0 && !work.running && (
          <Typography color="text.secondary" sx={{ maxWidth: 620 }}>
            {r.none}
          </Typography>
        )}
        <Box sx={{ display: 'flex', gap: 2, overflowX: 'auto', pb: 2 }} role="list">
          {list.map((c) => (
            <Found
              key={c.id}
              candidate={c}
              worked={worked}
              camera={camera}
              chosen={c.id === shown?.id}
              onChoose={() => onShow(c)}
            />
          ))}
        </Box>
      </Box>
      {shown && (
        <Particulars
          key={shown.id}
          piece={piece}
          rough={rough}
          candidate={shown}
          onCosts={
            work.running || unsaved
              ? undefined
              : () =>
                  work.start({
                    diagrams: [shown.diagram],
                    allowance: shown.allowance,
                    costs: true,
                    rounds: 1,
                  })
          }
        />
      )}
    </Box>
  );
}

interface FoundProps {
  candidate: Candidate;
  worked: RoughWorked;
  camera: Camera;
  chosen: boolean;
  onChoose: () => void;
}

/** A candidate: the piece with its stone in it, and what that weighs. */
function Found({ candidate: c, worked, camera, chosen, onChoose }: FoundProps) {
  const { data } = useQuery({ ...solidQuery(c.revision), enabled: c.place !== null });
  return (
    <Box role="listitem" sx={{ flexShrink: 0 }}>
      <StoneCard chosen={chosen} onChoose={onChoose} width={128}>
        <PieceSmall
          kept={worked.kept}
          stone={data && c.place ? placed(data, c.place) : undefined}
          camera={camera}
          height={92}
        />
        <Box
          sx={{
            fontWeight: 600,
            whiteSpace: 'nowrap',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          }}
        >
          {c.name}
        </Box>
        <Typography variant="figures" component="div" sx={{ fontSize: '0.875rem' }}>
          {c.place ? carats(c.carat) : '–'}
        </Typography>
        <Typography variant="body2" component="div" sx={{ minHeight: 20 }}>
          {c.chosen ? r.chosen : c.place ? percent(c.yield) : roughWords.noRoom}
        </Typography>
      </StoneCard>
    </Box>
  );
}

/** What a plan of a candidate begins with. */
const planOf = (piece: Piece, c: Candidate): string =>
  new URLSearchParams({
    diagram: c.diagram,
    material: piece.rough.material,
    piece: piece.id,
    // To a hundredth, and never more than fits.
    width: (Math.floor(100 * c.width) / 100).toFixed(2),
  }).toString();

/** The candidate that is looked at: its figures, and what is done with it. */
function Particulars({
  piece,
  rough,
  candidate: c,
  onCosts,
}: {
  piece: Piece;
  rough: Rough;
  candidate: Candidate;
  /** Asks what each flaw costs, undefined while that cannot be asked. */
  onCosts: (() => void) | undefined;
}) {
  const [why, setWhy] = useState(c.why);
  const choice = useMutation(chooseCandidate);
  const drop = useMutation(dropCandidate);
  const say = useNotice();
  const takeBack = c.chosen && why === c.why;
  return (
    <Box component="section" aria-label={c.name}>
      <Typography variant="h2" gutterBottom>
        {c.name}
      </Typography>
      {c.stale && <Care>{r.stale}</Care>}
      {c.place && <Face rough={rough} candidate={c} height={180} />}
      {c.place ? (
        <Figures
          rows={[
            [r.size, sizes(c.length, c.width)],
            [r.height, mm(c.height)],
            [r.weight, bothWeights(c.carat)],
            [r.yield, percent(c.yield)],
            [r.limits, limitsOf(c.limitedBy)],
            [r.bound, mm(c.bound)],
          ]}
        />
      ) : (
        <Typography>{roughWords.noRoom}</Typography>
      )}
      <Costs piece={piece} candidate={c} onCosts={onCosts} />
      {c.place && (
        <TextField
          label={r.why}
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          multiline
          fullWidth
          sx={{ my: 3 }}
        />
      )}
      <Refusal error={choice.error ?? drop.error} />
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        {c.place && (
          <Button
            variant={takeBack ? 'text' : 'contained'}
            onClick={() =>
              choice.mutate(
                { id: piece.id, candidate: takeBack ? '' : c.id, why },
                { onSuccess: () => say({ text: takeBack ? r.unchosen : r.chosenIs(c.name) }) },
              )
            }
          >
            {takeBack ? r.unchoose : r.choose}
          </Button>
        )}
        {c.place && (
          <Button component={Link} to={`/stones/new?${planOf(piece, c)}`}>
            {r.plan}
          </Button>
        )}
        {c.place && (
          <Button component={Link} to={`/rough/${piece.id}/vary/${c.id}`}>
            {variantWords.open}
          </Button>
        )}
        <Button onClick={() => drop.mutate({ id: piece.id, candidate: c.id })}>{r.drop}</Button>
      </Box>
    </Box>
  );
}

/** What each flaw costs: the stone that there would be if it might stay. */
function Costs({
  piece,
  candidate: c,
  onCosts,
}: {
  piece: Piece;
  candidate: Candidate;
  onCosts: (() => void) | undefined;
}) {
  const bothering = piece.rough.flaws.some((f) => f.rule !== 'accept');
  if (!bothering) return null;
  if (c.costs.length === 0)
    return (
      <Button size="small" disabled={!onCosts} onClick={onCosts} sx={{ my: 2 }}>
        {r.costs.ask}
      </Button>
    );
  return (
    <Box component="section" aria-label={r.costs.title} sx={{ my: 3 }}>
      <Typography variant="h3" gutterBottom>
        {r.costs.title}
      </Typography>
      <Figures
        rows={c.costs.map((one) => {
          const flaw = piece.rough.flaws[one.flaw];
          const more = one.carat - c.carat;
          return [
            flaw?.name || roughWords.flaw.unnamed(one.flaw + 1),
            more < 0.005 ? r.costs.nothing : r.costs.more(carats(more), mm(one.width)),
          ];
        })}
      />
    </Box>
  );
}
