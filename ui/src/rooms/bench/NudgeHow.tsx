import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { plain, thousandths } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';

interface Props {
  /** The index that the stone leans to, and the teeth of the gear. */
  towards: number;
  teeth: number;
  /** By how many mm its rim is lifted there. */
  mm: number;
}

/** Which way and how far the wax is nudged until the stone sits straight. */
export function NudgeHow({ towards, teeth, mm }: Props) {
  const tooth = (index: number) => ((Math.round(index) - 1 + teeth) % teeth) + 1;
  const here = plain(tooth(towards));
  const across = plain(tooth(towards + teeth / 2));
  return (
    <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', mb: 1 }}>
      <Leaning lift={here} press={across} mm={thousandths(mm)} />
      <Typography sx={{ flex: '1 1 0' }}>{t.nudgeHow(thousandths(mm), here, across)}</Typography>
    </Box>
  );
}

/** How far the stone leans in the picture: much farther than any does, so that it shows. */
const shownLean = 9;

/** The stone on its dop from the side, the side that it leans to on the left, with where to lift and where to press. */
function Leaning({ lift, press, mm }: { lift: string; press: string; mm: string }) {
  const { tokens } = useTheme();
  const stone = 'M-46 0 L-30 -22 L30 -22 L46 0 L8 34 L-8 34 Z';
  return (
    <svg
      viewBox="-84 -52 168 124"
      width={230}
      role="img"
      aria-label={t.nudgePicture(mm, lift, press)}
      style={{ flex: 'none' }}
    >
      <path d="M-9 44 V72 M9 44 V72" stroke={tokens.faint} strokeWidth={2} />
      <path d="M-9 44 Q-22 30 -12 22 L12 22 Q22 30 9 44 Z" fill={tokens.copperWash} />
      <path d={stone} fill="none" stroke={tokens.faint} strokeDasharray="3 3" />
      <g transform={`rotate(${-shownLean} 0 34)`}>
        <path d={stone} fill={tokens.sheet} stroke={tokens.ink} strokeWidth={1.6} />
        <path d="M-46 0 H46" stroke={tokens.ink} strokeWidth={1} />
      </g>
      <Arrow x={-66} from={36} to={14} colour={tokens.ember} />
      <Arrow x={66} from={-34} to={-12} colour={tokens.ember} />
      <g fontSize={11} fill={tokens.ink} textAnchor="middle">
        <text x={-66} y={50}>
          {lift}
        </text>
        <text x={66} y={-40}>
          {press}
        </text>
      </g>
    </svg>
  );
}

function Arrow({ x, from, to, colour }: { x: number; from: number; to: number; colour: string }) {
  const back = Math.sign(from - to) * 7;
  return (
    <path
      d={`M${x} ${from} V${to} M${x - 5} ${to + back} L${x} ${to} L${x + 5} ${to + back}`}
      fill="none"
      stroke={colour}
      strokeWidth={2.4}
    />
  );
}
