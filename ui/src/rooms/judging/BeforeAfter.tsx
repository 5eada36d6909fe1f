import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { AnglesReport, Draft, StoneView } from '../../api/client';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { Sheet } from '../../parts/Sheet';
import { angle, carats, mm } from '../../words/numbers';
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { useSolved } from '../diagrams/useSolved';
import type { AngleWish } from './angleWish';

const a = judgingWords.angles;

interface Props {
  was: Draft;
  is: Draft;
  report: AnglesReport;
  wish: AngleWish;
}

/** The stone before and after, drawn and measured. */
export function BeforeAfter({ was, is, report, wish }: Props) {
  const before = useSolved(was).shown;
  const after = useSolved(is).shown;
  const { before: b, after: n } = report;
  const height = (share: number | null | undefined) =>
    typeof share === 'number' ? mm(share * wish.width) : '–';
  const weight = (ct: number | null) => (ct === null ? '–' : carats(ct));
  const rows: [string, string, string][] = [
    [a.critical, `${angle(b.criticalAngle)}°`, `${angle(n.criticalAngle)}°`],
    [a.height, height(b.measures.heightWidth), height(n.measures.heightWidth)],
    [a.crownHeight, height(b.measures.crownHeight), height(n.measures.crownHeight)],
    [a.pavilionDepth, height(b.measures.pavilionDepth), height(n.measures.pavilionDepth)],
    [a.weight, weight(b.carats), weight(n.carats)],
  ];
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
        <Seen title={a.before} stone={before} />
        <Seen title={a.after} stone={after} />
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

function Seen({ title, stone }: { title: string; stone: StoneView | undefined }) {
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h3">{title}</Typography>
      {stone && (
        <>
          <Box sx={{ height: 210 }}>
            <StoneInWheel
              mesh={stone.mesh}
              step={stone.mesh.steps.length - 1}
              up="pavilion"
              wheel={[]}
              lit={[]}
              pixel={0.7}
              label={`${title}: ${w.drawing.inWheel('pavilion')}`}
            />
          </Box>
          <Box sx={{ height: 170 }}>
            <Profile
              mesh={stone.mesh}
              step={stone.mesh.steps.length - 1}
              levels={stone.levels}
              section={stone.towardsTwelve}
              toTheRight={12}
            />
          </Box>
        </>
      )}
    </Box>
  );
}
