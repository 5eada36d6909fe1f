import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Rough, RoughColour, RoughWorked, Zone } from '../../api/rough';
import { ranges } from '../../api/ranges';
import { tintsQuery } from '../../api/settings';
import { ChoiceList } from '../../parts/ChoiceList';
import { NumberField } from '../../parts/fields/NumberField';
import { Row } from '../../parts/Row';
import { vec, dot, type Camera } from '../../parts/stone/geometry';
import { mm } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { absorptionOf, colourOf } from './colour';
import { Part } from './Part';
import { Place } from './Place';
import { extentOf, pointOf } from './space';

const r = roughWords.colour;
const z = roughWords.zone;

interface Props {
  rough: Rough;
  worked: RoughWorked;
  camera: Camera;
  /** The zone that is chosen, -1 for none. */
  chosen: number;
  onChoose: (no: number | undefined) => void;
  onChange: (colour: Rough['colour']) => void;
}

/** The colour of a piece along its axis and across, and the zones of another colour in it. */
export function ColourPart({ rough, worked, camera, chosen, onChoose, onChange }: Props) {
  const tints = useQuery(tintsQuery).data;
  const { colour, axis } = rough;
  const usual = tints?.find((t) => t.usual.includes(rough.material))?.absorption ?? [0, 0, 0];
  const now: RoughColour = colour ?? { along: usual, across: usual, zones: [] };
  const set = (change: Partial<RoughColour>) => onChange({ ...now, ...change });
  const addZone = () => {
    const { middle, reach } = extentOf(worked.kept);
    const normal = camera.up;
    const at = dot(middle, normal);
    const rgb = now.along.map((a) => Math.round(1e5 * (2 * a + 0.05)) / 1e5);
    const zone = { normal: pointOf(normal), from: at - reach, to: at - 0.3 * reach, rgb };
    set({ zones: [...now.zones, zone] });
    onChoose(now.zones.length);
  };
  const setZone = (change: Partial<Zone>) =>
    set({ zones: now.zones.map((one, i) => (i === chosen ? { ...one, ...change } : one)) });
  const zone = now.zones[chosen];
  return (
    <Part head={r.head} add={z.add} onAdd={addZone}>
      {!colour && (
        <>
          <Typography color="text.secondary">{r.none}</Typography>
          <Button size="small" onClick={() => set({})} disabled={!tints}>
            {r.add}
          </Button>
        </>
      )}
      {colour && (
        <>
          <Row>
            <Swatch
              label={axis ? r.along : r.one}
              value={colour.along}
              onChange={(along) => set(axis ? { along } : { along, across: along })}
            />
            {axis && (
              <Swatch
                label={r.across}
                value={colour.across}
                onChange={(across) => set({ across })}
              />
            )}
            <Button size="small" onClick={() => onChange(null)}>
              {r.remove}
            </Button>
          </Row>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            {r.help} {!axis && r.noAxis}
          </Typography>
          <ChoiceList
            label={r.head}
            list={colour.zones}
            keyOf={(_, i) => i}
            isChosen={(_, i) => chosen === i}
            onChoose={(_, i) => onChoose(chosen === i ? undefined : i)}
          >
            {(one, i) => (
              <>
                <span>{z.name(i + 1)}</span>
                <Typography component="span" variant="body2" color="text.secondary">
                  {z.span(mm(one.from), mm(one.to))}
                </Typography>
              </>
            )}
          </ChoiceList>
        </>
      )}
      {zone && (
        <Box key={chosen} sx={{ display: 'grid', gap: 3, py: 3 }}>
          <Row>
            <Swatch label={z.colour} value={zone.rgb} onChange={(rgb) => setZone({ rgb })} />
            {(['from', 'to'] as const).map((side) => (
              <NumberField
                key={side}
                label={z[side]}
                unit="mm"
                {...ranges.RoughTrim.distance}
                value={Math.round(1000 * zone[side]) / 1000}
                onChange={(v) => setZone({ [side]: v })}
                width={110}
              />
            ))}
          </Row>
          <Place label={z.normal} at={zone.normal} onChange={(normal) => setZone({ normal })} />
          <Row>
            <Button
              size="small"
              onClick={() => {
                const { middle } = extentOf(worked.kept);
                const moved = dot(middle, camera.right) - dot(middle, vec(zone.normal));
                setZone({
                  normal: pointOf(camera.right),
                  from: zone.from + moved,
                  to: zone.to + moved,
                });
              }}
            >
              {z.facing}
            </Button>
            <Button
              size="small"
              onClick={() => {
                set({ zones: now.zones.filter((_, i) => i !== chosen) });
                onChoose(undefined);
              }}
            >
              {z.remove}
            </Button>
          </Row>
        </Box>
      )}
    </Part>
  );
}

/** An absorption, chosen by the colour that it leaves. */
function Swatch({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number[];
  onChange: (absorption: number[]) => void;
}) {
  return (
    <Typography
      component="label"
      variant="body2"
      sx={{ display: 'inline-flex', gap: 2, alignItems: 'center', minHeight: 44 }}
    >
      <Box
        component="input"
        type="color"
        value={colourOf(value)}
        onChange={(e) => onChange(absorptionOf(e.target.value))}
        sx={{ width: 48, height: 36, p: 0, border: 1, borderColor: 'divider', cursor: 'pointer' }}
      />
      {label}
    </Typography>
  );
}
