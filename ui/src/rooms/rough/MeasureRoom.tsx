import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { reread } from '../../api/refresh';
import {
  pieceQuery,
  pieceRecord,
  roughKey,
  surveyQuery,
  type Piece,
  type Survey,
  type Surveyed,
} from '../../api/rough';
import { defaultMachine, settingsQuery } from '../../api/settings';
import type { Settings } from '../../api/client';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { useOrbit } from '../../parts/gestures/useOrbit';
import { Halves } from '../../parts/Halves';
import { useNotice } from '../../parts/notice';
import { Await, Care, Figures, PageHead } from '../../parts/Page';
import { turned, type Camera } from '../../parts/stone/geometry';
import { carats, mm } from '../../words/numbers';
import { measureWords as k } from '../../words/measure';
import { roughWords } from '../../words/rough';
import { DialFields } from './DialFields';
import { PieceSmall } from './PieceDrawn';
import { askew } from './PieceInRound';
import { formOf } from './form';
import { Outlines, Touches, Widths } from './Measures';

/** A piece measured on the faceting machine: touch by touch its solid comes out. */
export function MeasureRoom() {
  const { id = '' } = useParams();
  const piece = useQuery(pieceQuery(id));
  const settings = useQuery(settingsQuery);
  return (
    <Await query={piece}>
      {(p) => <Await query={settings}>{(s) => <Room key={p.id} piece={p} settings={s} />}</Await>}
    </Await>
  );
}

/** Half a millimetre over two hundred: what an eye reads between the lines of usual calipers. */
const usualReading = 0.02;

const begin = (s: Settings): Survey => {
  const machine = defaultMachine(s);
  return {
    gear: machine.gears.includes(96) ? 96 : (machine.gears[0] ?? 96),
    reading: usualReading,
    lowers: machine.heightSense === 'lowers',
    known: [],
    touches: [],
    widths: [],
    outlines: [],
  };
};

function Room({ piece, settings }: { piece: Piece; settings: Settings }) {
  const [survey, setSurvey] = useState<Survey>(() => piece.survey ?? begin(settings));
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const say = useNotice();
  const weighed = piece.weighed !== '' ? piece.carats : 0;
  const asked = useQuery(surveyQuery(survey, piece.rough.material, weighed));
  const got = asked.error ? undefined : asked.data;
  const saving = useSaveOver(pieceRecord(piece.id), {
    onSaved: () => {
      void reread(queries, roughKey);
      say({ text: k.taken });
      void navigate(`/rough/${piece.id}`);
    },
    onTheirs: () => void reread(queries, roughKey),
  });
  const set = (change: Partial<Survey>) => setSurvey((s) => ({ ...s, ...change }));
  const measured = survey.touches.length + survey.outlines.length;
  const marked =
    piece.rough.flaws.length + piece.rough.trims.length > 0 || piece.rough.axis !== null;
  const take = () => {
    const solid = { kind: 'hull' as const, size: { x: 0, y: 0, z: 0 }, points: got!.points };
    const form = formOf(piece);
    saving.save({ ...form, survey, rough: { ...form.rough, solid } }, piece.version);
  };
  return (
    <FormFields value={report}>
      <PageHead
        title={k.title}
        facts={[roughWords.named(piece.number, piece.rough.name), piece.rough.material]}
      >
        <Button component={Link} to={`/rough/${piece.id}`}>
          {k.back}
        </Button>
        <Button
          variant="contained"
          disabled={!readable || !got?.solid || saving.isPending}
          onClick={take}
        >
          {k.take}
        </Button>
      </PageHead>
      <Halves left={<Solid got={got} measured={measured} weighed={weighed} />}>
        <Box sx={{ p: 4, minWidth: 0 }}>
          <Typography sx={{ mb: 3, maxWidth: 640 }}>{k.lead}</Typography>
          <Refusal error={saving.error ?? asked.error} />
          {marked && <Care>{k.moved}</Care>}
          <DialFields survey={survey} onChange={set} />
          <Touches survey={survey} got={got} onChange={set} />
          <Widths survey={survey} got={got} onChange={set} />
          <Outlines survey={survey} got={got} onChange={set} />
        </Box>
      </Halves>
      <SaveConflict
        saving={saving}
        mine={[k.take]}
        linesOf={(p) => [p.rough.name, p.rough.material, p.rough.note]}
      />
    </FormFields>
  );
}

interface SolidProps {
  got: Surveyed | undefined;
  /** How much is measured so far. */
  measured: number;
  /** What the scales say in carats, 0 where nobody weighed. */
  weighed: number;
}

/** The solid as far as it is measured, turned by hand, and what is known of it. */
function Solid({ got, measured, weighed }: SolidProps) {
  const [camera, setCamera] = useState<Camera>(askew);
  const orbit = useOrbit({
    turn: (right, down) => setCamera((c) => turned(c, -right, down)),
    across: 4,
    step: Math.PI / 24,
    home: () => setCamera(askew),
    zoom: () => {},
  });
  const f = k.figures;
  if (!got?.solid)
    return (
      <Typography color="text.secondary" sx={{ p: 6 }} role="status">
        {k.notYet(measured)}
      </Typography>
    );
  return (
    <Box sx={{ p: 3, position: { md: 'sticky' }, top: 0 }}>
      <Box
        role="application"
        aria-label={k.drawn}
        tabIndex={0}
        {...orbit}
        sx={{ touchAction: 'none', cursor: 'grab' }}
      >
        <PieceSmall kept={got.solid} camera={camera} height={420} />
      </Box>
      <Box sx={{ maxWidth: 420, mt: 2 }} role="status">
        <Figures
          rows={[
            [f.volume, f.mm3(got.volume)],
            [f.weight, carats(got.carats)],
            ...(weighed > 0 ? [[f.scales, carats(weighed)] as [string, string]] : []),
            ...(got.extra !== null ? [[f.extra, carats(got.extra)] as [string, string]] : []),
            ...(got.most !== null ? [[f.most, mm(got.most)] as [string, string]] : []),
          ]}
        />
      </Box>
    </Box>
  );
}
