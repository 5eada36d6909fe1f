import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { MountedDop } from '../../api/gluing';
import { ChoiceList } from '../../parts/ChoiceList';
import { gluingWords } from '../../words/gluing';
import { dopOutline, svgPoints, type Point } from './flat';
import { Remarks } from './Remarks';

const k = gluingWords.held;

/** How many dops are shown before more are asked for. */
const few = 5;

interface Props {
  dops: readonly MountedDop[];
  chosen: number;
  /** The place of the one that the plan names, -1 for none. */
  inPlan: number;
  onChoose: (place: number) => void;
}

/** The dops that could hold the stone, the best first. */
export function DopList({ dops, chosen, inPlan, onChoose }: Props) {
  const [all, setAll] = useState(false);
  const places = dops.map((_, i) => i);
  const shown = all ? places : places.filter((i) => i < few || i === chosen || i === inPlan);
  const widest = Math.max(...dops.map((d) => d.diameter));
  return (
    <Box component="section" aria-label={k.head} sx={{ mb: 4 }}>
      <Typography variant="h3" gutterBottom>
        {k.head}
      </Typography>
      <ChoiceList
        label={k.head}
        list={shown}
        keyOf={(i) => i}
        isChosen={(i) => i === chosen}
        onChoose={onChoose}
        row={56}
      >
        {(i) => {
          const d = dops[i]!;
          return (
            <>
              <DopSmall dop={d} widest={widest} />
              <Box sx={{ flexGrow: 1, minWidth: 0, py: 1 }}>
                <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
                  <span>{d.name}</span>
                  <Box component="span" sx={{ fontWeight: 400 }}>
                    {[i === inPlan ? k.taken : '', d.item === '' ? k.usual : '']
                      .filter(Boolean)
                      .join(' · ')}
                  </Box>
                </Box>
                <Typography variant="body2">
                  {[k.contact(d.contact), leastOf(d) >= 0 ? k.clears(leastOf(d)) : '']
                    .filter(Boolean)
                    .join(' · ')}
                </Typography>
                <Remarks list={d.faults} />
              </Box>
            </>
          );
        }}
      </ChoiceList>
      {dops.length > shown.length && (
        <Button size="small" onClick={() => setAll(true)}>
          {k.more(dops.length - shown.length)}
        </Button>
      )}
      {all && dops.length > few && (
        <Button size="small" onClick={() => setAll(false)}>
          {k.fewer}
        </Button>
      )}
    </Box>
  );
}

const leastOf = (d: MountedDop): number => (d.tightest < 0 ? 1000 : d.rooms[d.tightest]!);

/** A dop from the side, its face up, all to one scale. */
function DopSmall({ dop, widest }: { dop: MountedDop; widest: number }) {
  const { tokens } = useTheme();
  const outline = dopOutline({ ...dop, near: 0 }, 0.7 * widest).map(([x, y]): Point => [x, -y]);
  return (
    <svg
      width={44}
      height={40}
      viewBox={`${-0.55 * widest} ${-0.1 * widest} ${1.1 * widest} ${widest}`}
      aria-hidden
      style={{ flexShrink: 0 }}
    >
      <polygon
        points={svgPoints(outline)}
        fill={tokens.facetDark}
        stroke={tokens.ink}
        strokeWidth={widest / 36}
        strokeLinejoin="round"
      />
    </svg>
  );
}
