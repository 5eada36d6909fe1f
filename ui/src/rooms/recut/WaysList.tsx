import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { AnotherRecut, RecutFigures, RecutWay } from '../../api/recuts';
import { ChoiceList } from '../../parts/ChoiceList';
import { PickDiagram } from '../../parts/diagram/PickDiagram';
import { Care } from '../../parts/Page';
import { BeforeAndAfter } from '../../parts/stone/BeforeAndAfter';
import { mendingWords } from '../../words/mending';
import { carats, hours, mm, percent, sizes } from '../../words/numbers';
import { recutWords as t } from '../../words/recut';
import { w } from '../../words/words';

interface Props {
  ways: readonly RecutWay[];
  /** Places of damages that a setting hides. */
  stay: readonly number[];
  /** Undefined where nothing is marked. */
  before: RecutFigures | undefined;
  another: AnotherRecut | undefined;
  fetching: boolean;
  way: RecutWay | undefined;
  onChoose: (way: string) => void;
  /** Looks for another diagram in the stone. */
  onOther: (diagram: string) => void;
}

/** The ways to recut a stone, and what the chosen one costs. */
export function WaysList(props: Props) {
  const { ways, stay, before, another, fetching, way, onChoose, onOther } = props;
  return (
    <>
      <Typography variant="h3">{t.ways}</Typography>
      <Box sx={{ height: 4 }}>{fetching && <LinearProgress aria-label={w.common.loading} />}</Box>
      {ways.length === 0 && !fetching && <Typography>{t.none}</Typography>}
      {stay.length > 0 && <Typography>{t.stays(stay.map((i) => i + 1).join(', '))}</Typography>}
      {ways.length > 0 && (
        <ChoiceList
          label={t.ways}
          list={ways}
          keyOf={(each) => each.way}
          isChosen={(each) => each.way === way?.way}
          onChoose={(each) => each.solid && onChoose(each.way)}
        >
          {(each) => (
            <>
              <Typography
                component="span"
                sx={{ fontWeight: 600 }}
                color={each.solid ? undefined : 'text.secondary'}
              >
                {each.way === 'another' ? t.anotherOf(another?.name ?? '') : each.name}
              </Typography>
              <Typography component="span" sx={{ textAlign: 'right' }}>
                {each.figures ? (
                  <>
                    <Typography component="span" variant="figures">
                      {mendingWords.loss(each.figures.lost)}
                    </Typography>{' '}
                    · {each.again > 0 ? t.cut(each.again) : t.nothingToCut}
                  </>
                ) : (
                  each.why
                )}
              </Typography>
            </>
          )}
        </ChoiceList>
      )}
      <Box sx={{ my: 2 }}>
        <PickDiagram label={t.another} without={[]} onPick={onOther} />
      </Box>
      {way?.figures && <Costs before={before} way={way} after={way.figures} />}
      {way?.way === 'another' && another && (
        <Typography>
          {t.lies(another.tilt)} {!another.whole && t.notWhole}
        </Typography>
      )}
    </>
  );
}

function Costs(props: { before: RecutFigures | undefined; way: RecutWay; after: RecutFigures }) {
  const { before, way, after } = props;
  const takes = way.takes.map((take) => take.mm);
  /** A figure before, where that is known, and after. */
  const row = (name: string, of: (f: RecutFigures) => string): [string, string, string] => [
    name,
    before ? of(before) : '–',
    of(after),
  ];
  return (
    <Box sx={{ my: 3 }}>
      <Typography>
        {way.does} {way.way !== 'another' && mendingWords.seen(way.gap)}
      </Typography>
      {takes.length > 0 && (
        <Typography>{t.takes(takes.length, Math.min(...takes), Math.max(...takes))}</Typography>
      )}
      {grouped(way.added).map((a) => (
        <Typography key={`${a.part} ${a.angle}`}>{t.added(a.part, a.angle, a.indexes)}</Typography>
      ))}
      <BeforeAndAfter
        heads={[t.before, t.afterwards]}
        rows={[
          row(t.weight, (f) => carats(f.carats)),
          row(t.size, (f) => sizes(f.width, f.length)),
          row(t.height, (f) => mm(f.height)),
          row(t.table, (f) => (f.tableWidth === null ? '–' : mm(f.tableWidth))),
          row(t.girdle, (f) => t.range(f.girdleMin, f.girdleMax)),
          row(t.culet, (f) => mm(f.culetOffset)),
          row(t.light, (f) => percent(f.return)),
          row(t.window, (f) => percent(f.window)),
        ]}
      />
      {after.girdleMin !== null &&
        after.girdleMin < thin &&
        after.girdleMin < (before?.girdleMin ?? Infinity) - same && (
          <Care grave>{t.thin(after.girdleMin)}</Care>
        )}
      <Typography sx={{ mt: 1 }}>
        {t.hours}: {t.hoursOf(hours(way.minutes / 60), hours(way.polishMinutes / 60))}
      </Typography>
    </Box>
  );
}

/** Below so many mm a girdle chips in setting; what differs by less than the other is the same. */
const thin = 0.2;
const same = 0.001;

/** Added facets with all indexes at one angle together. */
function grouped(added: RecutWay['added']) {
  const out: { part: string; angle: number; indexes: number[] }[] = [];
  for (const { part, angle, index } of added) {
    const same = out.find((o) => o.part === part && o.angle === angle);
    if (same) same.indexes.push(index);
    else out.push({ part, angle, indexes: [index] });
  }
  return out;
}
