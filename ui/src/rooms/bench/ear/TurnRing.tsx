import { useTheme } from '@mui/material/styles';
import { earWords as t } from '../../../words/ear';

/** A turn as a ring: each part as dark as the stone hit there when it last came by. */
export function TurnRing({ parts }: { parts: readonly number[] }) {
  const { tokens } = useTheme();
  const step = 360 / parts.length;
  return (
    <svg viewBox="-100 -100 200 200" role="img" aria-label={t.ring} width={260} height={260}>
      <circle r={90} fill="none" stroke={tokens.hairline} />
      <circle r={60} fill="none" stroke={tokens.hairline} />
      {parts.map((level, i) => (
        <path
          key={i}
          data-part={Math.round(100 * level)}
          d={arc(i * step, (i + 1) * step)}
          fill={tokens.ember}
          fillOpacity={level}
        />
      ))}
      <path d="M0 -98l-5 -9h10z" transform="translate(0 8)" fill={tokens.ink} />
    </svg>
  );
}

/** A part of the ring between two angles in degrees, clockwise from the top. */
function arc(from: number, to: number): string {
  const at = (radius: number, degrees: number) => {
    const a = (degrees * Math.PI) / 180;
    return `${(radius * Math.sin(a)).toFixed(2)} ${(-radius * Math.cos(a)).toFixed(2)}`;
  };
  return `M${at(90, from)}A90 90 0 0 1 ${at(90, to)}L${at(60, to)}A60 60 0 0 0 ${at(60, from)}Z`;
}
