import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { AnglesReport, Draft, StoneView } from '../../api/client';
import { figuresQuery, type Lighting } from '../../api/light';
import { SideBySideSheet } from '../../parts/SideBySideSheet';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { lightWords } from '../../words/light';
import { angle, carats, mm, percent } from '../../words/numbers';
import { anglesWords } from '../../words/angles';
import { w } from '../../words/words';
import { useSolved } from '../../parts/stone/useSolved';

const a = anglesWords;

interface Props {
  was: Draft;
  is: Draft;
  report: AnglesReport;
  /** How both are looked at: in the material that the angles are moved to. */
  lighting: Lighting;
}

/** The stone before and after, drawn and measured. */
export function BeforeAfter({ was, is, report, lighting }: Props) {
  const before = useSolved(was).shown;
  const after = useSolved(is).shown;
  const { before: b, after: n } = report;
  const lightWas = useQuery(figuresQuery(was, lighting)).data;
  const lightIs = useQuery(figuresQuery(is, lighting)).data;
  const lit = (name: 'return' | 'window'): [string, string] => [
    lightWas ? percent(lightWas[name]) : '…',
    lightIs ? percent(lightIs[name]) : '…',
  ];
  const length = (v: number | null) => (v === null ? '–' : mm(v));
  const weight = (ct: number | null) => (ct === null ? '–' : carats(ct));
  const rows: [string, string, string][] = [
    [a.critical, `${angle(b.criticalAngle)}°`, `${angle(n.criticalAngle)}°`],
    [a.height, length(b.height), length(n.height)],
    [a.crownHeight, length(b.crown), length(n.crown)],
    [a.pavilionDepth, length(b.pavilion), length(n.pavilion)],
    [a.weight, weight(b.carats), weight(n.carats)],
    [lightWords.names.return, ...lit('return')],
    [lightWords.names.window, ...lit('window')],
  ];
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
        <Drawn title={a.before} stone={before} />
        <Drawn title={a.after} stone={after} />
      </Box>
      <SideBySideSheet sides={[a.before, a.after]} rows={rows} />
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
