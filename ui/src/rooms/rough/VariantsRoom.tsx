import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { varyDiagram } from '../../api/diagrams';
import {
  fittingOf,
  pieceQuery,
  variantsOf,
  type Candidate,
  type Piece,
  type Variant,
  type VariantLine,
} from '../../api/rough';
import { usualQuery } from '../../api/settings';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Await, Empty, Figures, PageHead } from '../../parts/Page';
import { ProgressLine } from '../../parts/ProgressLine';
import type { Camera } from '../../parts/stone/geometry';
import { useLongWork } from '../../parts/useLongWork';
import { angle, carats, hours, mm, percent } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { variantWords as k } from '../../words/variants';
import { limitsOf } from './limits';
import { PieceSmall } from './PieceDrawn';
import { placed } from './space';
import { StoneCard } from './StoneCard';
import { bestOf, changeIn, keyOf, pavilionOf, type Best } from './variants';

/** Changes of a candidate's diagram that suit the piece: angles moved, and tiers left off. */
export function VariantsRoom() {
  const { id = '', candidate = '' } = useParams();
  const piece = useQuery(pieceQuery(id));
  return (
    <Await query={piece}>
      {(p) => {
        const c = p.candidates.find((one) => one.id === candidate && one.place);
        return c ? (
          <Room key={c.id} piece={p} candidate={c} />
        ) : (
          <Empty text={k.gone}>
            <Button component={Link} to={`/rough/${p.id}`} variant="contained">
              {k.back}
            </Button>
          </Empty>
        );
      }}
    </Await>
  );
}

interface Search {
  now: VariantLine;
  found: Variant[];
}

const after = (before: Search | undefined, line: VariantLine): Search => ({
  now: line,
  found: [...(before?.found ?? []), ...(line.found ? [line.found] : [])],
});

/** From the side, the table up: what is changed is seen best so. */
const fromTheSide = ({ rotation: r }: NonNullable<Candidate['place']>): Camera => ({
  right: [r[0]!, r[3]!, r[6]!],
  up: [r[2]!, r[5]!, r[8]!],
});

function Room({ piece, candidate }: { piece: Piece; candidate: Candidate }) {
  const usual = useQuery(usualQuery).data;
  const work = useLongWork(variantsOf(piece.id), after);
  const [chosen, choose] = useState<string>();
  // What was tried last may have been of another candidate.
  const mine = work.state?.now.candidate === candidate.id ? work.state : undefined;
  const found = mine?.found ?? [];
  const drawn = found.find((v) => v.asDrawn);
  const shown = found.find((v) => keyOf(v) === chosen) ?? drawn;
  const best = bestOf(found);
  const moved = found.filter((v) => v.without.length === 0);
  const pavilions = [...new Set(moved.map(pavilionOf))].sort((a, b) => a - b);
  const crowns = [...new Set(moved.map((v) => v.crown))].sort((a, b) => a - b);
  const cell = (v: Variant) => (
    <Cell
      key={keyOf(v)}
      piece={piece}
      variant={v}
      best={best}
      chosen={v === shown}
      onChoose={() => choose(keyOf(v))}
    />
  );
  return (
    <>
      <PageHead
        title={k.title(candidate.name)}
        facts={[
          roughWords.named(piece.number, piece.rough.name),
          piece.rough.material,
          carats(candidate.carat),
        ]}
      >
        {mine && work.running ? (
          <Button onClick={work.stop}>{k.stop}</Button>
        ) : (
          <Button
            variant="contained"
            disabled={!usual || work.running}
            onClick={() =>
              usual &&
              work.start({
                candidate: candidate.id,
                model: usual.lightModel,
                headAngle: usual.headAngle,
              })
            }
          >
            {found.length > 0 ? k.again : k.start}
          </Button>
        )}
        <Button component={Link} to={`/rough/${piece.id}`}>
          {k.back}
        </Button>
      </PageHead>
      <Refusal error={work.error} />
      <Box sx={{ px: 4, pt: 3 }}>
        {mine && work.running ? (
          <ProgressLine
            done={mine.now.done}
            total={mine.now.total}
            text={k.trying(mine.now.done, mine.now.total)}
          />
        ) : (
          <Typography color="text.secondary" sx={{ maxWidth: 860 }}>
            {k.lead} {found.length === 0 && k.none}
          </Typography>
        )}
      </Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 340px' },
          alignItems: 'start',
        }}
      >
        <Box sx={{ p: 4, minWidth: 0 }}>
          {moved.length > 0 && (
            <Box component="section" aria-label={k.angles} sx={{ overflowX: 'auto' }}>
              <Typography variant="h2" gutterBottom>
                {k.angles}
              </Typography>
              <Box
                sx={{
                  display: 'grid',
                  gridTemplateColumns: `110px repeat(${crowns.length}, minmax(118px, 1fr))`,
                  gap: 2,
                }}
              >
                <span />
                {crowns.map((c) => (
                  <Typography key={c} variant="body2">
                    {k.crown(c)}
                  </Typography>
                ))}
                {pavilions.map((p) => [
                  <Typography key={`p${p}`} variant="body2" sx={{ alignSelf: 'center' }}>
                    {k.pavilion(p)}
                  </Typography>,
                  ...crowns.map((c) => {
                    const v = moved.find((one) => pavilionOf(one) === p && one.crown === c);
                    return v ? cell(v) : <span key={`${p} ${c}`} />;
                  }),
                ])}
              </Box>
            </Box>
          )}
          {found.some((v) => v.without.length > 0) && (
            <Box component="section" aria-label={k.without} sx={{ mt: 5 }}>
              <Typography variant="h2" gutterBottom>
                {k.without}
              </Typography>
              <Box
                sx={{
                  display: 'grid',
                  gridTemplateColumns: 'repeat(auto-fill, minmax(160px, 1fr))',
                  gap: 2,
                }}
              >
                {found.filter((v) => v.without.length > 0).map(cell)}
              </Box>
            </Box>
          )}
        </Box>
        {shown && <Particulars piece={piece} candidate={candidate} variant={shown} drawn={drawn} />}
      </Box>
    </>
  );
}

interface CellProps {
  piece: Piece;
  variant: Variant;
  best: Best;
  chosen: boolean;
  onChoose: () => void;
}

/** A variant from the side, with its width, weight and light. */
function Cell({ piece, variant: v, best, chosen, onChoose }: CellProps) {
  const marks = (Object.keys(k.marks) as (keyof Best)[]).filter((m) => best[m] === v);
  return (
    <StoneCard chosen={chosen} onChoose={onChoose}>
      <Box component="span" sx={{ position: 'absolute', clipPath: 'inset(50%)' }}>
        {v.name}
      </Box>
      <PieceSmall
        kept={piece.worked.kept}
        stone={placed(v.solid, v.place)}
        camera={fromTheSide(v.place)}
        height={84}
        zoom={1.7}
      />
      <Typography variant="figures" component="div" sx={{ fontSize: '0.8125rem' }}>
        {k.cell(v.width, v.carat)}
      </Typography>
      <Typography variant="body2" component="div" sx={{ minHeight: 20 }}>
        {k.light(v.return)}
      </Typography>
      <Typography variant="body2" component="div" sx={{ minHeight: 20, fontWeight: 600 }}>
        {[
          ...(v.without.length > 0 ? [k.leaving(v.without)] : []),
          ...(v.asDrawn ? [k.drawn] : []),
          ...marks.map((m) => k.marks[m]),
        ].join(', ')}
      </Typography>
    </StoneCard>
  );
}

interface ParticularsProps {
  piece: Piece;
  candidate: Candidate;
  variant: Variant;
  drawn: Variant | undefined;
}

/** The variant that is looked at beside the diagram as drawn, and what is done with it. */
function Particulars({ piece, candidate, variant: v, drawn }: ParticularsProps) {
  const say = useNotice();
  const go = useNavigate();
  const vary = useMutation(varyDiagram);
  const keep = useMutation({
    mutationFn: async () => {
      const made = await vary.mutateAsync({ id: candidate.diagram, draft: v.draft });
      await fittingOf(piece.id).start({
        diagrams: [made.id],
        allowance: candidate.allowance,
        costs: false,
        rounds: 1,
      });
    },
    onSuccess: () => {
      say({ text: k.kept(v.name) });
      void go(`/rough/${piece.id}`);
    },
  });
  const hidden = (of: Variant) => of.flaws.reduce((sum, f) => sum + f.share, 0);
  const f = k.figures;
  const row = (
    name: string,
    value: (of: Variant) => number,
    write: (v: number) => string,
  ): [string, string] => [
    name,
    [write(value(v)), drawn && v !== drawn ? changeIn(value(v), value(drawn), write) : '']
      .filter(Boolean)
      .join('  '),
  ];
  return (
    <Box
      component="section"
      aria-label={v.name}
      sx={{ p: 4, borderLeft: { md: 1 }, borderColor: { md: 'divider' } }}
    >
      <Typography variant="h2" gutterBottom>
        {v.name}
      </Typography>
      <Figures
        rows={[
          row(f.width, (o) => o.width, mm),
          row(f.height, (o) => o.height, mm),
          row(f.weight, (o) => o.carat, carats),
          row(f.light, (o) => o.return, percent),
          row(f.window, (o) => o.window, percent),
          row(
            f.margin,
            (o) => o.margin,
            (d) => `${angle(Math.round(100 * d) / 100)}°`,
          ),
          row(f.facets, (o) => o.facets, String),
          row(f.hours, (o) => o.hours, hours),
          ...(piece.rough.flaws.length > 0 ? [row(f.flaws, hidden, percent)] : []),
          [f.limits, limitsOf(v.limitedBy)],
        ]}
      />
      <Refusal error={keep.error} />
      {!v.asDrawn && (
        <>
          <Button
            variant="contained"
            disabled={keep.isPending}
            onClick={() => keep.mutate()}
            sx={{ mt: 4 }}
          >
            {k.keep}
          </Button>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            {k.keepHelp}
          </Typography>
        </>
      )}
    </Box>
  );
}
