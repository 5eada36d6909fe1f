import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Draft, StoneView } from '../../api/client';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { orderWords } from '../../words/order';

const o = orderWords;

export interface TierMark {
  /** What is wrong with the tier where it stands. */
  wrong?: string;
  /** It is cut by size or by eye. */
  free: boolean;
  /** It stands elsewhere in the other order. */
  moved?: boolean;
  /** Its stop is another one in the other order. */
  restopped?: boolean;
}

interface Props {
  title: string;
  draft: Draft;
  stone: StoneView | undefined;
  /** One for each tier of the draft. */
  marks: TierMark[];
}

/** The tiers one under another, each with a picture of the stone as it leaves it. */
export function TierSteps({ title, draft, stone, marks }: Props) {
  const worded = new Map(stone?.tiers.map((t) => [t.key, t.stop]));
  const failed = marks.findIndex((m) => m.wrong);
  // What comes after a tier that cannot be cut cannot be drawn.
  const drawn = (i: number) => stone && (stone.complete || failed < 0 || i < failed);
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h3" gutterBottom>
        {title}
      </Typography>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {draft.tiers.map((t, i) => {
          const mark = marks[i]!;
          return (
            <Box
              component="li"
              key={t.key}
              data-tier={t.name}
              sx={{
                display: 'flex',
                gap: 3,
                alignItems: 'center',
                borderTop: 1,
                borderColor: 'divider',
                minHeight: 72,
                background: (th) => (mark.moved ? th.tokens.copperWash : undefined),
              }}
            >
              <Box sx={{ width: 68, height: 68, flexShrink: 0 }}>
                {drawn(i) && (
                  <StoneInWheel
                    mesh={stone!.mesh}
                    step={stone!.facets.filter((f) => f.tier <= i).length}
                    up={(stone!.tiers[i]?.up ?? 'pavilion') as 'crown' | 'pavilion'}
                    pixel={1.6}
                    selected={new Set(stone!.facets.flatMap((f, at) => (f.tier === i ? [at] : [])))}
                    label={o.after(t.name)}
                  />
                )}
              </Box>
              <Typography variant="figures" sx={{ width: 44, flexShrink: 0, fontWeight: 600 }}>
                {t.name}
              </Typography>
              <Box sx={{ flexGrow: 1, minWidth: 0, py: 1 }}>
                {mark.wrong ? (
                  <Typography color="error">✕ {mark.wrong}</Typography>
                ) : (
                  <Typography>{(drawn(i) && worded.get(t.key)) || t.stop}</Typography>
                )}
                <Typography variant="body2" color="text.secondary">
                  {[mark.moved && o.moved, mark.restopped && o.stop, mark.free && o.free]
                    .filter(Boolean)
                    .join(' · ')}
                </Typography>
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
