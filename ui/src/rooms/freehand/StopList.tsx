import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Freehand } from '../../api/client';
import { ChoiceList } from '../../parts/ChoiceList';
import { NumberField } from '../../parts/fields/NumberField';
import { freehandWords as t } from '../../words/freehand';
import { plain } from '../../words/numbers';
import { w } from '../../words/words';

type Next = NonNullable<Freehand['next']>;
type Point = Next['reaches'][number]['points'][number];

/** A way to stop. */
export interface Way {
  key: string;
  words: string;
  /** A meet or a centre point, as a draft writes it. */
  stop?: string;
  /** Where that is. */
  at?: Point;
  /** The point that was tapped. */
  here?: Point;
  /** What a size measures. */
  size?: 'across' | 'tall';
}

/** How many meets are offered: those that come first. */
const most = 6;

/** The ways in which what is dialled can stop, the meets first. */
export function stopsOf(next: Next | undefined): Way[] {
  if (!next) return [];
  const upright = next.part === 'girdle';
  const level = next.dials.length > 0 && !upright && next.level;
  return [
    ...next.reaches.slice(0, most).map((r) => ({
      key: r.stop,
      words: r.words,
      stop: r.stop,
      at: r.points[0],
    })),
    { key: 'here', words: t.here },
    ...(upright ? [{ key: 'size', words: t.size, size: 'across' as const }] : []),
    ...(level ? [{ key: 'size', words: t.size, size: 'tall' as const }] : []),
  ];
}

interface Props {
  ways: readonly Way[];
  chosen: Way | undefined;
  onChoose: (way: Way) => void;
  size: number | undefined;
  onSize: (mm: number | undefined) => void;
}

/** Where the cut is to stop: a meet, by eye, or a size. */
export function StopList({ ways, chosen, onChoose, size, onSize }: Props) {
  if (ways.length === 0) return <Typography sx={{ my: 2 }}>{t.nothing}</Typography>;
  return (
    <>
      <Typography variant="h3" sx={{ mt: 1 }}>
        {t.until}
      </Typography>
      {!ways.some((o) => o.stop) && <Typography color="text.secondary">{t.noReach}</Typography>}
      <ChoiceList
        label={t.until}
        list={ways}
        keyOf={(o) => o.key}
        isChosen={(o) => o.key === chosen?.key}
        onChoose={onChoose}
        row={48}
        now
      >
        {(o, i) => (
          <span>
            {i + 1} · {o.words}
          </span>
        )}
      </ChoiceList>
      {chosen?.key === 'here' && (
        <Typography sx={{ my: 1 }}>{chosen.here ? w.bench.stopHere : t.hereHelp}</Typography>
      )}
      {chosen?.size && (
        <Box sx={{ my: 2 }}>
          <NumberField
            label={chosen.size === 'across' ? t.sizeAcross : t.sizeTall}
            unit={w.units.mm}
            min={0.1}
            max={500}
            value={size}
            typed={size === undefined ? undefined : plain(size)}
            optional=""
            autoFocus
            onChange={onSize}
          />
        </Box>
      )}
    </>
  );
}
