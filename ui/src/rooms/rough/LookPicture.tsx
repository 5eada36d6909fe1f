import { useTheme } from '@mui/material/styles';
import type { ReactNode } from 'react';
import type { LookedAt } from '../../api/rough';

/** A way of looking, drawn: the piece, the eye, and where the light comes from. */
export function LookPicture({ way }: { way: LookedAt['way'] }) {
  const { tokens } = useTheme();
  const stone = (
    <path
      d="M58 92 L74 70 L104 66 L122 84 L112 108 L78 112 Z M74 70 L86 86 L122 84 M86 86 L78 112"
      fill={tokens.copperWash}
      stroke={tokens.ink}
      strokeWidth="1.5"
      strokeLinejoin="round"
    />
  );
  const eye = (x: number, y: number) => (
    <g stroke={tokens.ink} fill="none" strokeWidth="1.5">
      <path d={`M${x - 14} ${y} Q${x} ${y - 12} ${x + 14} ${y} Q${x} ${y + 12} ${x - 14} ${y} Z`} />
      <circle cx={x} cy={y} r="4" fill={tokens.ink} />
    </g>
  );
  const lamp = (x: number, y: number) => (
    <circle cx={x} cy={y} r="9" fill={tokens.emberWash} stroke={tokens.ember} strokeWidth="1.5" />
  );
  const ray = (d: string) => (
    <path d={d} stroke={tokens.ember} strokeWidth="1.2" strokeDasharray="4 3" fill="none" />
  );
  const stripes = (vertical: boolean) =>
    [0, 1, 2].map((i) => (
      <path
        key={i}
        d={vertical ? `M${78 + 12 * i} 74 v34` : `M64 ${82 + 9 * i} h52`}
        stroke={tokens.copper}
        strokeWidth={2 + i}
        opacity="0.7"
      />
    ));
  const pictures: Record<LookedAt['way'], ReactNode> = {
    white: (
      <>
        <path d="M24 128 L52 104 H150 L132 128 Z" fill={tokens.sheet} stroke={tokens.hairline} />
        {stone}
        {eye(90, 26)}
      </>
    ),
    backlit: (
      <>
        {ray('M24 92 H58 M122 90 H140')}
        {lamp(18, 92)}
        {stone}
        <path d="M84 76 L96 102" stroke={tokens.ink} strokeWidth="5" opacity="0.6" />
        {eye(150, 90)}
      </>
    ),
    reflected: (
      <>
        {ray('M34 34 L88 88 L140 38')}
        {lamp(28, 28)}
        {stone}
        <path d="M76 94 L102 82" stroke={tokens.ember} strokeWidth="3" />
        {eye(146, 30)}
      </>
    ),
    wet: (
      <>
        <path
          d="M36 62 V124 H144 V62 M36 70 H144"
          fill="none"
          stroke={tokens.hairline}
          strokeWidth="2"
        />
        {ray('M20 92 H56')}
        {lamp(14, 92)}
        {stone}
        {eye(90, 28)}
      </>
    ),
    polarised: (
      <>
        {[50, 124].map((y, i) => (
          <g key={y} stroke={tokens.faint}>
            <path d={`M44 ${y} L60 ${y - 10} H136 L120 ${y} Z`} fill="none" />
            {[0, 1, 2, 3].map((k) => (
              <path
                key={k}
                d={
                  i === 0
                    ? `M${62 + 18 * k} ${y - 9} l-12 8`
                    : `M${48 + 4 * k} ${y - 2 - 2 * k} h74`
                }
                strokeWidth="0.8"
              />
            ))}
          </g>
        ))}
        {stone}
        {lamp(90, 144)}
        {eye(90, 20)}
      </>
    ),
    along: (
      <>
        {stone}
        {stripes(false)}
        {eye(90, 28)}
        {ray('M90 40 V64')}
      </>
    ),
    across: (
      <>
        {stone}
        {stripes(true)}
        {eye(20, 90)}
        {ray('M36 90 H56')}
      </>
    ),
  };
  return (
    <svg viewBox="0 0 168 160" width="168" height="160" aria-hidden>
      {pictures[way]}
    </svg>
  );
}
