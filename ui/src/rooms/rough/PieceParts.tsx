import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { ranges } from '../../api/ranges';
import {
  keepOffcut,
  type Flaw,
  type Piece,
  type PieceForm,
  type Rough,
  type RoughWorked,
  type Trim,
} from '../../api/rough';
import { ChoiceList } from '../../parts/ChoiceList';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Care, Figures } from '../../parts/Page';
import { Row } from '../../parts/Row';
import { TextLink } from '../../parts/TextLink';
import type { Camera } from '../../parts/stone/geometry';
import { carats, money, sizes } from '../../words/numbers';
import { lookWords } from '../../words/look';
import { roughWords as r } from '../../words/rough';
import { w } from '../../words/words';
import { AxisPart } from './AxisPart';
import { ColourPart } from './ColourPart';
import { Part } from './Part';
import { PiecePhotos } from './PiecePhotos';
import { Place } from './Place';
import type { Chosen } from './PieceInRound';
import { extentOf, eyeOf, pointOf, unitOf } from './space';
import { Weight } from './Weight';

interface Props {
  piece: Piece;
  draft: PieceForm;
  worked: RoughWorked;
  chosen: Chosen | undefined;
  camera: Camera;
  /** What the saw's blade usually takes, in mm. */
  kerf: number;
  onChoose: (chosen: Chosen | undefined) => void;
  set: (change: Partial<PieceForm>) => void;
  setRough: (change: Partial<Rough>) => void;
  setFlaw: (no: number, change: Partial<Flaw>) => void;
  setTrim: (no: number, change: Partial<Trim>) => void;
  placing: boolean;
  onPlacing: (placing: boolean) => void;
  /** A flaw is being looked at from two sides. */
  sighting: boolean;
  /** Begins that, or ends it. */
  onSightings: () => void;
  onLook: () => void;
  /** The piece on screen is not the one that is kept. */
  unsaved: boolean;
}

/** What is in a piece and on it: flaws, saw cuts, its weight, and what else is known. */
export function PieceParts(props: Props) {
  const { draft, worked, chosen, camera, kerf, onChoose, setRough, setFlaw, setTrim } = props;
  const { flaws, trims } = draft.rough;
  const chosenOf = (what: Chosen['what']) => (chosen?.what === what ? chosen.no : -1);
  const addTrim = () => {
    const { middle, reach } = extentOf(worked.kept);
    const normal = pointOf(camera.right);
    const distance =
      middle[0] * normal.x + middle[1] * normal.y + middle[2] * normal.z + 0.55 * reach;
    setRough({ trims: [...trims, { normal, distance, kerf }] });
    onChoose({ what: 'trim', no: trims.length });
  };
  const say = useNotice();
  const off = useMutation({
    ...keepOffcut,
    onSuccess: (made, ...rest) => {
      say({ text: r.trim.kept(made.number) });
      return keepOffcut.onSuccess?.(made, ...rest);
    },
  });
  const drop = <T,>(list: readonly T[], no: number): T[] => list.filter((_, i) => i !== no);
  return (
    <Box
      sx={{
        borderLeft: { md: 1 },
        borderColor: { md: 'divider' },
        p: 4,
        overflow: 'auto',
        height: { md: 'calc(100vh - 384px)' },
        minHeight: { md: 360 },
      }}
    >
      <Part
        head={r.parts.flaws}
        add={props.placing ? w.common.cancel : r.flaw.add}
        onAdd={() => props.onPlacing(!props.placing)}
        more={
          !props.placing && (
            <Button size="small" onClick={props.onSightings}>
              {props.sighting ? w.common.cancel : r.flaw.sightings.start}
            </Button>
          )
        }
      >
        {flaws.length === 0 && <Typography color="text.secondary">{r.flaw.none}</Typography>}
        <ChoiceList
          label={r.parts.flaws}
          list={flaws}
          keyOf={(_, i) => i}
          isChosen={(_, i) => chosenOf('flaw') === i}
          onChoose={(_, i) =>
            onChoose(chosenOf('flaw') === i ? undefined : { what: 'flaw', no: i })
          }
        >
          {(f, i) => (
            <>
              <span>{f.name || r.flaw.unnamed(i + 1)}</span>
              <Typography component="span" variant="body2" color="text.secondary">
                {r.flaw.ruleShort[f.rule]}
              </Typography>
            </>
          )}
        </ChoiceList>
        {flaws[chosenOf('flaw')] && (
          <FlawFields
            key={chosenOf('flaw')}
            flaw={flaws[chosenOf('flaw')]!}
            camera={camera}
            onChange={(change) => setFlaw(chosenOf('flaw'), change)}
            onRemove={() => {
              setRough({ flaws: drop(flaws, chosenOf('flaw')) });
              onChoose(undefined);
            }}
          />
        )}
      </Part>
      <Part head={r.parts.trims} add={r.trim.add} onAdd={addTrim}>
        {trims.length === 0 && <Typography color="text.secondary">{r.trim.none}</Typography>}
        <ChoiceList
          label={r.parts.trims}
          list={trims}
          keyOf={(_, i) => i}
          isChosen={(_, i) => chosenOf('trim') === i}
          onChoose={(_, i) =>
            onChoose(chosenOf('trim') === i ? undefined : { what: 'trim', no: i })
          }
        >
          {(_, i) => (
            <>
              <span>{r.trim.name(i + 1)}</span>
              {worked.cuts[i] && (
                <Typography component="span" variant="body2" color="text.secondary">
                  {r.trim.costs(
                    carats(worked.cuts[i].kerfCarats),
                    carats(worked.cuts[i].offcutCarats),
                  )}
                </Typography>
              )}
            </>
          )}
        </ChoiceList>
        {trims[chosenOf('trim')] && (
          <TrimFields
            key={chosenOf('trim')}
            trim={trims[chosenOf('trim')]!}
            camera={camera}
            offcut={
              !props.unsaved && (worked.cuts[chosenOf('trim')]?.offcutCarats ?? 0) > 0
                ? () => off.mutate({ id: props.piece.id, trim: chosenOf('trim') })
                : undefined
            }
            onChange={(change) => setTrim(chosenOf('trim'), change)}
            onRemove={() => {
              setRough({ trims: drop(trims, chosenOf('trim')) });
              onChoose(undefined);
            }}
          />
        )}
      </Part>
      <Refusal error={off.error} />
      <ColourPart
        rough={draft.rough}
        worked={worked}
        camera={camera}
        chosen={chosenOf('zone')}
        onChoose={(no) => onChoose(no === undefined ? undefined : { what: 'zone', no })}
        onChange={(colour) => setRough({ colour })}
      />
      <AxisPart axis={draft.rough.axis} camera={camera} onChange={(axis) => setRough({ axis })} />
      <PiecePhotos piece={props.piece} />
      <Stones piece={props.piece} />
      <Family piece={props.piece} />
      <Part head={r.parts.weights}>
        <Figures rows={weights(props)} />
        {worked.care && <Care>{worked.care}</Care>}
      </Part>
      <Part
        head={r.parts.look}
        add={draft.seen.length > 0 ? lookWords.again : lookWords.start}
        onAdd={props.onLook}
      >
        {draft.seen.length === 0 ? (
          <Typography color="text.secondary">{lookWords.none}</Typography>
        ) : (
          <Figures
            rows={draft.seen
              .filter((s) => s.what !== 'skipped')
              .map((s) => [lookWords.ways[s.way].name, s.note || lookWords.what[s.what]])}
          />
        )}
      </Part>
      <Part head={r.aside.about}>
        <About {...props} />
      </Part>
    </Box>
  );
}

/** The stones that are cut from a piece. */
function Stones({ piece }: { piece: Piece }) {
  if (piece.stones.length === 0) return null;
  return (
    <Part head={r.stones}>
      {piece.stones.map((s) => (
        <Typography key={s.id}>
          <TextLink to={`/stones/${s.id}`}>{r.stone(s.number, s.name)}</TextLink>
        </Typography>
      ))}
    </Part>
  );
}

/** What a piece was sawn off, and what was sawn off it. */
function Family({ piece }: { piece: Piece }) {
  if (piece.parent === '' && piece.offcuts.length === 0) return null;
  return (
    <Part head={r.offcuts}>
      {piece.parent !== '' && (
        <Typography>
          {r.sawnOff}{' '}
          <TextLink to={`/rough/${piece.parent}`}>{r.piece(piece.parentNumber)}</TextLink>
        </Typography>
      )}
      {piece.offcuts.map((o) => (
        <Typography key={o.id}>
          <TextLink to={`/rough/${o.id}`}>{r.named(o.number, o.name)}</TextLink> {carats(o.carats)}
        </Typography>
      ))}
    </Part>
  );
}

function weights({ piece, draft, worked }: Props): [string, string][] {
  const [x, y, z] = [0, 1, 2].map((k) => {
    const all = worked.kept.vertices.filter((_, i) => i % 3 === k);
    return Math.max(...all) - Math.min(...all);
  });
  return [
    ...(draft.weighed ? [[r.weighed, `${draft.weighed} ${draft.unit}`] as [string, string]] : []),
    [r.bySolid, carats(worked.wholeCarats)],
    ...(draft.rough.trims.length > 0
      ? [[r.afterSaw, carats(worked.keptCarats)] as [string, string]]
      : []),
    [r.sizes, sizes(x!, y!, z!)],
    ...(piece.cost > 0 ? [[r.cost, money(piece.cost, piece.currency)] as [string, string]] : []),
  ];
}

interface FieldsProps<T> {
  camera: Camera;
  onChange: (change: Partial<T>) => void;
  onRemove: () => void;
}

function FlawFields({ flaw, camera, onChange, onRemove }: FieldsProps<Flaw> & { flaw: Flaw }) {
  return (
    <Box sx={{ display: 'grid', gap: 3, py: 3 }}>
      <TextField
        label={r.flaw.name}
        value={flaw.name}
        onChange={(e) => onChange({ name: e.target.value })}
      />
      <Row>
        <PickField
          label={r.flaw.rule}
          value={flaw.rule}
          options={r.flaw.rules}
          onChange={(rule) => onChange({ rule: rule as Flaw['rule'] })}
          width={194}
        />
        <PickField
          label={r.flaw.kind}
          value={flaw.kind}
          options={r.flaw.kinds}
          onChange={(kind) => onChange({ kind: kind as Flaw['kind'], radius: flaw.radius || 0.5 })}
          width={106}
        />
      </Row>
      {flaw.kind !== 'point' && (
        <NumberField
          label={r.flaw.radius}
          unit="mm"
          min={0.01}
          max={ranges.RoughFlaw.radius.max}
          value={flaw.radius}
          onChange={(radius) => onChange({ radius })}
        />
      )}
      <Place label={r.flaw.at} at={flaw.at} onChange={(at) => onChange({ at })} />
      {flaw.kind === 'disc' && (
        <Button size="small" onClick={() => onChange({ normal: pointOf(eyeOf(camera)) })}>
          {r.flaw.facing}
        </Button>
      )}
      <Button size="small" onClick={onRemove}>
        {r.flaw.remove}
      </Button>
    </Box>
  );
}

function TrimFields({
  trim,
  camera,
  offcut,
  onChange,
  onRemove,
}: FieldsProps<Trim> & {
  trim: Trim;
  /** Keeps what falls off as a piece, undefined where that cannot be. */
  offcut: (() => void) | undefined;
}) {
  const n = unitOf([trim.normal.x, trim.normal.y, trim.normal.z]);
  return (
    <Box sx={{ display: 'grid', gap: 3, py: 3 }}>
      <Row>
        <NumberField
          label={r.trim.distance}
          unit="mm"
          {...ranges.RoughTrim.distance}
          value={Math.round(1000 * trim.distance) / 1000}
          onChange={(distance) => onChange({ distance })}
          width={150}
        />
        <NumberField
          label={r.trim.kerf}
          unit="mm"
          {...ranges.RoughTrim.kerf}
          value={trim.kerf}
          onChange={(kerf) => onChange({ kerf })}
          width={150}
        />
      </Row>
      <Place label={r.trim.normal} at={trim.normal} onChange={(normal) => onChange({ normal })} />
      <Row>
        <Button size="small" onClick={() => onChange({ normal: pointOf(camera.right) })}>
          {r.trim.facing}
        </Button>
        <Button
          size="small"
          onClick={() =>
            onChange({ normal: pointOf([-n[0], -n[1], -n[2]]), distance: -trim.distance })
          }
        >
          {r.trim.flip}
        </Button>
        <Button size="small" disabled={!offcut} onClick={offcut}>
          {r.trim.keep}
        </Button>
        <Button size="small" onClick={onRemove}>
          {r.trim.remove}
        </Button>
      </Row>
    </Box>
  );
}

/** What else is known of a piece. */
function About({ draft, set, setRough }: Props) {
  return (
    <Box sx={{ display: 'grid', gap: 3, pt: 1 }}>
      <TextField
        label={r.adding.name}
        value={draft.rough.name}
        onChange={(e) => setRough({ name: e.target.value })}
      />
      <MaterialField
        label={w.stones.material}
        value={draft.rough.material}
        onChange={(material) => setRough({ material })}
        width={320}
      />
      <Weight draft={draft} set={set} />
      <PickField
        label={r.fate}
        value={draft.fate}
        options={r.fates}
        onChange={(fate) => set({ fate: fate as PieceForm['fate'] })}
      />
      <TextField
        label={r.aside.along}
        value={draft.along}
        onChange={(e) => set({ along: e.target.value })}
      />
      <TextField
        label={r.aside.across}
        value={draft.across}
        onChange={(e) => set({ across: e.target.value })}
      />
      <TextField
        label={r.aside.note}
        value={draft.rough.note}
        multiline
        minRows={2}
        onChange={(e) => setRough({ note: e.target.value })}
      />
    </Box>
  );
}
