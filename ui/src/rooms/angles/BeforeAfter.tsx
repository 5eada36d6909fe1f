import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { AnglesReport, Draft, StoneView } from '../../api/client';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { Sheet } from '../../parts/Sheet';
import { angle, carats, mm } from '../../words/numbers';
import { anglesWords } from '../../words/angles';
import { w } from '../../words/words';
import { useSolved } from '../../parts/stone/useSolved';

const a = anglesWords;

interface Props {
  was: Draft;
  is: Draft;
  report: AnglesReport;
}

/** The stone before and after, drawn and measured. */
export function BeforeAfter({ was, is, report }: Props) {
  const before = useSolved(was).shown;
  const after = useSolved(is).shown;
  const { before: b, after: n } = report;
  const length = (v: number | null) => (v === null ? '–' : mm(v));
  const weight = (ct: number | null) => (ct === null ? '–' : carats(ct));
  const rows: [string, string, string][] = [
    [a.critical, `${angle(b.criticalAngle)}°`, `${angle(n.criticalAngle)}°`],
    [a.height, length(b.height), length(n.height)],
    [a.crownHeight, length(b.crown), length(n.crown)],
    [a.pavilionDepth, length(b.pavilion), length(n.pavilion)],
    [a.weight, weight(b.carats), weight(n.carats)],
  ];
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
        <Drawn title={a.before} stone={before} />
        <Drawn title={a.after} stone={after} />
      </Box>
      <Sheet dense head={['', a.before, a.after]}>
        {rows.map(([name, x, y]) => (
          <tr key={name}>
            <td>{name}</td>
            <td className="figure">{x}</td>
            <td className="figure">{y}</td>
          </tr>
        ))}
      </Sheet>
    </>
  );
}

function Drawn({ title, stone }: { title: string; stone: StoneView | undefined }) {
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h3">{title}</Typography>
      {stone && (
        <>
          <Box sx={{ height: 210 }}>
            <StoneInWheel
              mesh={stone.mesh}
              up="pavilion"
              pixel={0.7}
              label={`${title}: ${w.drawing.inWheel('pavilion')}`}
            />
          </Box>
          <Box sx={{ height: 170 }}>
            <Profile mesh={stone.mesh} levels={stone.levels} section={stone.towardsTwelve} />
          </Box>
        </>
      )}
    </Box>
  );
}
