import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Usual } from '../../api/client';
import { reread } from '../../api/refresh';
import {
  pieceQuery,
  pieceRecord,
  roughKey,
  solidQuery,
  workedQuery,
  type Candidate,
  type Flaw,
  type Piece,
  type PieceForm,
  type Trim,
  type Zone,
} from '../../api/rough';
import { usualQuery } from '../../api/settings';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal, whyRefused } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { useKeys } from '../../parts/keys';
import { useNotice } from '../../parts/notice';
import { Await, PageHead } from '../../parts/Page';
import type { Camera } from '../../parts/stone/geometry';
import { bothWeights, mm, plain } from '../../words/numbers';
import { roughWords as r } from '../../words/rough';
import { lookWords } from '../../words/look';
import { measureWords } from '../../words/measure';
import { CandidateStrip } from './CandidateStrip';
import { formOf } from './form';
import { LookDialog } from './LookDialog';
import { askew, PieceInRound, type Chosen } from './PieceInRound';
import { PieceParts } from './PieceParts';
import { useSightings } from './useSightings';
import { eyeOf, ontoTable, placed, pointOf } from './space';

/** A piece of rough: what it is, what is in it, and what can come of it. */
export function PieceRoom() {
  const { id = '' } = useParams();
  const piece = useQuery(pieceQuery(id));
  const usual = useQuery(usualQuery);
  return (
    <Await query={piece}>
      {(p) => <Await query={usual}>{(u) => <Room key={p.id} piece={p} usual={u} />}</Await>}
    </Await>
  );
}

function Room({ piece, usual }: { piece: Piece; usual: Usual }) {
  const [draft, setDraft] = useState(() => formOf(piece));
  const [camera, setCamera] = useState<Camera>(askew);
  const [chosen, choose] = useState<Chosen>();
  const [placing, setPlacing] = useState(false);
  /** What was written of a flaw before it has its place. */
  const [named, setNamed] = useState('');
  const [looking, setLooking] = useState(false);
  const [shown, show] = useState<string>();
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const say = useNotice();
  const saving = useSaveOver(pieceRecord(piece.id), {
    onSaved: (p: Piece) => {
      setDraft(formOf(p));
      void reread(queries, roughKey);
      say({ text: r.saved(p.number) });
    },
    onTheirs: (p: Piece) => {
      setDraft(formOf(p));
      void reread(queries, roughKey);
    },
  });
  const changed =
    JSON.stringify({ ...draft, version: 0 }) !== JSON.stringify({ ...formOf(piece), version: 0 });
  const { data: fresh, error } = useQuery({ ...workedQuery(draft), enabled: changed });
  const worked = (changed && fresh) || piece.worked;
  const set = (change: Partial<PieceForm>) => setDraft((d) => ({ ...d, ...change }));
  const setRough = (change: Partial<PieceForm['rough']>) =>
    setDraft((d) => ({ ...d, rough: { ...d.rough, ...change } }));
  const setFlaw = (no: number, change: Partial<Flaw>) =>
    setDraft((d) => ({ ...d, rough: { ...d.rough, flaws: changedAt(d.rough.flaws, no, change) } }));
  const setTrim = (no: number, change: Partial<Trim>) =>
    setDraft((d) => ({ ...d, rough: { ...d.rough, trims: changedAt(d.rough.trims, no, change) } }));
  const addFlaw = (at: Flaw['at']) => {
    setPlacing(false);
    const normal = pointOf(eyeOf(camera));
    setRough({
      flaws: [
        ...draft.rough.flaws,
        { name: named, kind: 'ball', at, radius: 0.5, normal, rule: 'out' },
      ],
    });
    choose({ what: 'flaw', no: draft.rough.flaws.length });
    setNamed('');
  };
  const sightings = useSightings(draft.rough, draft.fate === 'cut', (at, gap) => {
    addFlaw(at);
    say({ text: r.flaw.sightings.found(mm(gap)) });
  });
  const setZone = (no: number, change: Partial<Zone>) =>
    setDraft((d) => {
      const { colour } = d.rough;
      if (!colour) return d;
      const zones = changedAt(colour.zones, no, change);
      return { ...d, rough: { ...d.rough, colour: { ...colour, zones } } };
    });
  const save = () => saving.save(draft, draft.version);
  const good = changed && readable && !saving.isPending;
  useKeys([
    { keys: ['f'], label: r.flaw.add, run: () => setPlacing(true) },
    { keys: ['l'], label: lookWords.start, run: () => setLooking(true) },
    ...(good ? [{ keys: ['s'], label: r.save, run: save }] : []),
  ]);
  const candidate =
    piece.candidates.find((c) => c.id === shown) ??
    piece.candidates.find((c) => c.chosen) ??
    piece.candidates.find((c) => c.place);
  const stone = useStone(candidate);
  return (
    <FormFields value={report}>
      <PageHead
        title={r.named(piece.number, draft.rough.name)}
        facts={[
          draft.rough.material,
          bothWeights(piece.carats),
          piece.parcelName,
          changed ? r.unsaved : '',
        ]}
      >
        <Button component={Link} to={`/rough/${piece.id}/measure`}>
          {measureWords.open}
        </Button>
        <Button component="a" href={`/api/rough/${piece.id}/file`} download>
          {r.file}
        </Button>
        <Button variant="contained" disabled={!good} onClick={save}>
          {r.save}
        </Button>
      </PageHead>
      <Refusal error={saving.error ?? error} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 360px' },
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Box
          sx={{
            height: { xs: 380, md: 'calc(100vh - 384px)' },
            minHeight: 360,
            position: 'relative',
          }}
        >
          <PieceInRound
            rough={draft.rough}
            worked={worked}
            stone={stone}
            camera={camera}
            onCamera={setCamera}
            chosen={chosen}
            onChoose={choose}
            onFlaw={setFlaw}
            onTrim={setTrim}
            onZone={setZone}
            placing={placing}
            onPlace={addFlaw}
            onSight={sightings.step === undefined ? undefined : sightings.sight}
            lines={sightings.lines}
          />
          <Views
            onAskew={() => setCamera(askew)}
            onTable={candidate?.place ? () => setCamera(ontoTable(candidate.place!)) : undefined}
            placing={placing}
          />
          <Sightings sightings={sightings} />
        </Box>
        <PieceParts
          piece={piece}
          kerf={usual.kerf}
          draft={draft}
          worked={worked}
          chosen={chosen}
          camera={camera}
          onChoose={choose}
          set={set}
          setRough={setRough}
          setFlaw={setFlaw}
          setTrim={setTrim}
          placing={placing}
          onPlacing={setPlacing}
          sighting={sightings.step !== undefined}
          onSightings={sightings.step === undefined ? sightings.begin : sightings.end}
          onLook={() => setLooking(true)}
          unsaved={changed}
        />
      </Box>
      <CandidateStrip
        piece={piece}
        usualAllowance={usual.allowance}
        rough={draft.rough}
        worked={worked}
        camera={camera}
        shown={candidate}
        onShow={(c) => show(c.id)}
        unsaved={changed}
      />
      {looking && (
        <LookDialog
          seen={draft.seen}
          onSeen={(seen) => set({ seen })}
          onMark={(name) => {
            setLooking(false);
            setNamed(name);
            setPlacing(true);
          }}
          onClose={() => setLooking(false)}
        />
      )}
      <SaveConflict saving={saving} mine={linesOf(draft)} linesOf={linesOf} />
    </FormFields>
  );
}

const changedAt = <T,>(list: readonly T[], no: number, change: Partial<T>): T[] =>
  list.map((one, i) => (i === no ? { ...one, ...change } : one));

/** A candidate's stone in its place, undefined until its version was fetched. */
function useStone(candidate: Candidate | undefined) {
  const { data } = useQuery({
    ...solidQuery(candidate?.revision ?? ''),
    enabled: Boolean(candidate?.place),
  });
  return data && candidate?.place ? placed(data, candidate.place) : undefined;
}

/** A piece in lines, for holding two against each other. */
const linesOf = (p: PieceForm): string[] => [
  p.rough.name,
  p.rough.material,
  `${p.weighed} ${p.unit}`,
  r.fates[p.fate],
  p.along,
  p.across,
  p.rough.note,
  ...p.seen.map((s) => `${lookWords.ways[s.way].name}: ${s.note || lookWords.what[s.what]}`),
  ...p.rough.trims.map(
    (t, i) => `${r.trim.name(i + 1)}: ${plain(t.distance)} mm, ${r.xyz(t.normal)}`,
  ),
  ...p.rough.flaws.map(
    (f, i) => `${f.name || r.flaw.unnamed(i + 1)}: ${r.xyz(f.at)}, ${r.flaw.ruleShort[f.rule]}`,
  ),
];

interface ViewsProps {
  onAskew: () => void;
  onTable: (() => void) | undefined;
  placing: boolean;
}

/** From where the piece is looked at. */
function Views({ onAskew, onTable, placing }: ViewsProps) {
  return (
    <Box
      sx={{
        position: 'absolute',
        left: 24,
        bottom: 12,
        display: 'flex',
        gap: 2,
        alignItems: 'center',
      }}
    >
      <Button size="small" onClick={onAskew}>
        {r.views.home}
      </Button>
      {onTable && (
        <Button size="small" onClick={onTable}>
          {r.views.table}
        </Button>
      )}
      {placing && (
        <Box component="span" role="status" sx={{ color: 'secondary.main', maxWidth: 420 }}>
          {r.flaw.place}
        </Box>
      )}
    </Box>
  );
}

/** What is asked for while a flaw is looked at from two sides. It leaves the piece free. */
function Sightings({ sightings }: { sightings: ReturnType<typeof useSightings> }) {
  const { step, error } = sightings;
  if (step === undefined) return null;
  return (
    <Box sx={{ position: 'absolute', left: 24, top: 8, right: 24 }}>
      <Box role="status" sx={{ color: 'secondary.main' }}>
        {error ? whyRefused(error) : r.flaw.sightings.steps[step]}
      </Box>
      <FormControlLabel
        control={
          <Checkbox
            checked={sightings.immersed}
            onChange={(e) => sightings.setImmersed(e.target.checked)}
          />
        }
        label={r.flaw.sightings.immersed}
      />
    </Box>
  );
}
