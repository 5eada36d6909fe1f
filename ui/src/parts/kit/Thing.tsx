import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useId } from 'react';
import type { Shelved } from '../../api/kit';
import type { Tokens } from '../../theme/tokens';

interface Props {
  of: Shelved;
  /** Diameter in mm of what is drawn largest among its like. */
  largest: number;
  /** Height of the drawing in px. */
  size: number;
  /** It is not what is reached for now. */
  aside?: boolean;
}

/** A thing of the kit as it stands on the shelf: what it is, how much is left, what is on it. */
export function Thing({ of, largest, size, aside = false }: Props) {
  const { tokens } = useTheme();
  const draw = { of, largest, tokens };
  return (
    <Box
      component="svg"
      viewBox="0 0 100 100"
      aria-hidden
      sx={{ width: size, height: size, opacity: aside ? 0.35 : 1, flexShrink: 0 }}
    >
      {of.item.lap && <LapFace {...draw} />}
      {(of.item.kind === 'compound' || of.item.kind === 'adhesive') && <Bottle {...draw} />}
      {of.item.dop && <DopProfile {...draw} />}
      {of.item.gear && <GearRim {...draw} />}
      {of.item.blade && <BladeRim {...draw} />}
      {of.item.kind === 'supply' && <BoxOf {...draw} />}
    </Box>
  );
}

interface Drawn {
  of: Shelved;
  largest: number;
  tokens: Tokens;
}

/** An arc of a circle about the middle, clockwise from the top, for a share of it. */
function arc(r: number, share: number): string {
  if (share >= 1) return `M50 ${50 - r}A${r} ${r} 0 1 1 49.99 ${50 - r}`;
  const a = 2 * Math.PI * share;
  const [x, y] = [50 + r * Math.sin(a), 50 - r * Math.cos(a)];
  return `M50 ${50 - r}A${r} ${r} 0 ${share > 0.5 ? 1 : 0} 1 ${x} ${y}`;
}

/** A lap from above: its face by what it is made of, worn as far as it is worn, with what is on it. */
function LapFace({ of, largest, tokens: t }: Drawn) {
  const id = useId();
  const lap = of.item.lap!;
  const r = (43 * lap.diameter) / largest;
  const hub = (r * lap.hub) / lap.diameter;
  const dirty = of.on.length > 0;
  return (
    <>
      <defs>
        <FacePattern id={id} surface={lap.surface} grain={of.grain} tokens={t} />
      </defs>
      <circle cx={50} cy={50} r={r} fill={t.facetLight} stroke={t.ink} />
      <circle cx={50} cy={50} r={r} fill={`url(#${id})`} />
      {(lap.surface === 'metal' || lap.surface === 'wax') &&
        [0.4, 0.55, 0.7, 0.85].map((k) => (
          <circle
            key={k}
            cx={50}
            cy={50}
            r={r * k}
            fill="none"
            stroke={t.hairline}
            strokeDasharray={lap.surface === 'wax' ? '4 3' : undefined}
          />
        ))}
      {lap.surface === 'film' && (
        <circle
          cx={50}
          cy={50}
          r={r - 3}
          fill="none"
          stroke={t.ink}
          strokeWidth={0.6}
          strokeDasharray="2 2"
        />
      )}
      {/* The track is worn where the stone runs: broader the less is left. */}
      {of.left !== null && of.left < 1 && (
        <circle
          cx={50}
          cy={50}
          r={(r + hub) / 2}
          fill="none"
          stroke={t.rough}
          strokeOpacity={0.85}
          strokeWidth={(r - hub) * 0.8 * (1 - of.left)}
        />
      )}
      {dirty && <Smudges r={r} tokens={t} />}
      <circle cx={50} cy={50} r={hub} fill={t.paper} stroke={t.ink} strokeWidth={0.6} />
      <circle cx={50} cy={50} r={2.5} fill={t.ink} />
      {of.left !== null && (
        <>
          <circle cx={50} cy={50} r={47.5} fill="none" stroke={t.hairline} />
          <path
            d={arc(47.5, of.left)}
            fill="none"
            stroke={of.left > 0.25 ? t.copper : t.ember}
            strokeWidth={3}
          />
        </>
      )}
    </>
  );
}

/** What is on a lap. */
function Smudges({ r, tokens: t }: { r: number; tokens: Tokens }) {
  return [
    [0.62, 0.5, 5],
    [0.75, 2.2, 3.5],
    [0.55, 4.1, 4.2],
  ].map(([k, a, size], i) => (
    <circle
      key={i}
      cx={50 + r * k! * Math.cos(a!)}
      cy={50 + r * k! * Math.sin(a!)}
      r={size}
      fill={t.ember}
      stroke={t.ink}
      strokeWidth={0.6}
    />
  ));
}

interface FaceProps {
  id: string;
  surface: string;
  grain: number;
  tokens: Tokens;
}

/** What the face of a lap looks like: grit as dots, larger where it is coarser. */
function FacePattern({ id, surface, grain, tokens: t }: FaceProps) {
  const lines = { stroke: t.hairline, strokeWidth: 0.8 };
  const dot = Math.max(0.35, Math.min(1.6, 0.4 * Math.log2(Math.max(grain, 1) + 1)));
  return (
    <pattern id={id} width={6} height={6} patternUnits="userSpaceOnUse">
      {surface === 'bonded' && (
        <>
          <circle cx={1.5} cy={1.5} r={dot} fill={t.faint} />
          <circle cx={4.5} cy={4.5} r={dot} fill={t.faint} />
        </>
      )}
      {surface === 'wood' && <path d="M0 1H6M0 4H6" {...lines} />}
      {surface === 'fabric' && <path d="M0 0L6 6M6 0L0 6" {...lines} />}
      {surface === 'ceramic' && <path d="M3 0V6" {...lines} />}
    </pattern>
  );
}

/** A bottle or a tube: as full as it still keeps. */
function Bottle({ of, tokens: t }: Drawn) {
  const share = freshness(of);
  const worst = of.needs.some((n) => n.grave);
  const top = 30;
  const height = 58;
  return (
    <>
      <path
        d="M40 8H60V18H40Z M42 18V26C42 29 30 30 30 38V86C30 90 32 92 36 92H64C68 92 70 90 70 86V38C70 30 58 29 58 26V18"
        fill={t.facetLight}
        stroke={t.ink}
      />
      <rect
        x={31}
        y={top + height * (1 - share)}
        width={38}
        height={height * share + 3}
        fill={worst ? t.emberWash : of.item.kind === 'adhesive' ? t.facetDark : t.copperWash}
      />
      <rect x={33} y={52} width={34} height={22} fill={t.sheet} stroke={t.ink} strokeWidth={0.6} />
      {worst && <path d="M42 56L58 70M58 56L42 70" stroke={t.alarm} strokeWidth={2.5} />}
    </>
  );
}

/** The share of its time that is left to what does not keep for ever; 1 for what does. */
function freshness(of: Shelved): number {
  if (of.have === 0) return 0;
  if (of.until === '' || of.opened === '') return 1;
  const [from, to] = [Date.parse(of.opened), Date.parse(of.until)];
  return Math.max(0, Math.min(1, (to - Date.now()) / (to - from)));
}

/** A dop from the side, its face up. */
function DopProfile({ of, largest, tokens: t }: Drawn) {
  const { shape, diameter } = of.item.dop!;
  const half = (30 * diameter) / largest;
  const face = { flat: '', cone: `L50 ${20 + half * 0.9}`, vee: `L50 ${20 + half * 0.9}` }[shape];
  return (
    <>
      <path
        d={`M${50 - half} 20${face}L${50 + half} 20V44L56 56V92H44V56L${50 - half} 44Z`}
        fill={t.facetDark}
        stroke={t.ink}
        strokeLinejoin="round"
      />
      {shape === 'vee' && (
        <path d={`M50 ${20 + half * 0.9}V44`} stroke={t.ink} strokeWidth={0.6} fill="none" />
      )}
    </>
  );
}

function GearRim({ of, tokens: t }: Drawn) {
  const shown = Math.min(of.item.gear!.teeth, 96);
  const teeth = Array.from({ length: shown }, (_, i) => (2 * Math.PI * i) / shown);
  return (
    <>
      {teeth.map((a) => (
        <line
          key={a}
          x1={50 + 40 * Math.sin(a)}
          y1={50 - 40 * Math.cos(a)}
          x2={50 + 45 * Math.sin(a)}
          y2={50 - 45 * Math.cos(a)}
          stroke={t.ink}
          strokeWidth={1.2}
        />
      ))}
      <circle cx={50} cy={50} r={40} fill={t.facetLight} stroke={t.ink} />
      <circle cx={50} cy={50} r={9} fill={t.paper} stroke={t.ink} />
    </>
  );
}

function BladeRim({ tokens: t }: Drawn) {
  return (
    <>
      <circle cx={50} cy={50} r={44} fill={t.facetDark} stroke={t.ink} strokeDasharray="7 1.4" />
      <circle cx={50} cy={50} r={36} fill={t.facetLight} />
      <circle cx={50} cy={50} r={6} fill={t.paper} stroke={t.ink} />
    </>
  );
}

function BoxOf({ of, tokens: t }: Drawn) {
  const worst = of.needs.length > 0;
  return (
    <>
      <path d="M18 40L50 28L82 40V84L50 94L18 84Z" fill={t.facetLight} stroke={t.ink} />
      <path d="M18 40L50 52L82 40M50 52V94" fill="none" stroke={t.ink} strokeWidth={0.8} />
      {worst && <path d="M22 46L47 55V64L22 55Z" fill={t.ember} />}
    </>
  );
}
