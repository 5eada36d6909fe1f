import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import type { ItemKind, Shelved } from '../../api/kit';
import { Thing } from '../../parts/kit/Thing';
import { kitWords as k } from '../../words/kit';
import { dayOf, micron, plain } from '../../words/numbers';

interface Props {
  things: Shelved[];
  /** The place in the next stone's work of what it needs, by IDs; undefined where there is none in mind. */
  reach: ReadonlyMap<string, number> | undefined;
  chosen: string | undefined;
  onChoose: (id: string) => void;
  /** What is said of the laps. */
  children?: ReactNode;
}

/** How tall things stand on their board, in px. */
const heights: Partial<Record<ItemKind, number>> = { lap: 92, compound: 72, adhesive: 72 };

/** The things on their boards, kind by kind, laps and compounds the coarsest first. */
export function Shelves({ things, reach, chosen, onChoose, children }: Props) {
  const [withGone, setWithGone] = useState(false);
  const shown = things.filter((s) => withGone || !s.gone);
  const gone = things.filter((s) => s.gone).length;
  const boards = (Object.keys(k.shelves) as ItemKind[]).filter((kind) =>
    shown.some((s) => s.item.kind === kind),
  );
  return (
    <Box onKeyDown={walk}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 8 }}>
        {boards.map((kind) => {
          const here = shown.filter((s) => s.item.kind === kind);
          const largest = Math.max(...here.map(diameterOf));
          return (
            <Box
              key={kind}
              component="section"
              aria-label={k.shelves[kind]}
              // The laps have a board of their own; small things share one.
              sx={{ flex: kind === 'lap' || here.length > 5 ? '1 0 100%' : '1 1 auto', mt: 4 }}
            >
              <Typography variant="h3">{k.shelves[kind]}</Typography>
              <Box sx={{ display: 'flex', flexWrap: 'wrap', rowGap: 2 }}>
                {here.map((s) => (
                  <Place
                    key={s.item.id}
                    of={s}
                    largest={largest}
                    size={heights[kind] ?? 56}
                    place={reach?.get(s.item.id) ?? 0}
                    aside={
                      s.gone ||
                      (reach !== undefined &&
                        (kind === 'lap' || kind === 'compound') &&
                        !reach.has(s.item.id))
                    }
                    isChosen={s.item.id === chosen}
                    onChoose={() => onChoose(s.item.id)}
                  />
                ))}
              </Box>
              {kind === 'lap' && children}
            </Box>
          );
        })}
      </Box>
      {gone > 0 && (
        <Button sx={{ mt: 4 }} onClick={() => setWithGone(!withGone)}>
          {withGone ? k.hideGone : k.showGone(gone)}
        </Button>
      )}
    </Box>
  );
}

const diameterOf = ({ item: i }: Shelved): number =>
  i.lap?.diameter ?? i.dop?.diameter ?? i.blade?.diameter ?? 1;

interface PlaceProps {
  of: Shelved;
  largest: number;
  size: number;
  /** Its place among what the next stone needs, 0 for none. */
  place: number;
  aside: boolean;
  isChosen: boolean;
  onChoose: () => void;
}

/** A thing on its board, which is the line under it. */
function Place({ of: s, largest, size, place, aside, isChosen, onChoose }: PlaceProps) {
  const worst = s.needs[0];
  return (
    <ButtonBase
      data-thing=""
      aria-pressed={isChosen}
      onClick={onChoose}
      title={worst?.text}
      sx={{
        display: 'block',
        textAlign: 'center',
        width: s.item.lap ? 112 : 122,
        px: 1,
        pt: 1,
        pb: 1,
        position: 'relative',
        alignSelf: 'flex-start',
        background: (t) => (isChosen ? t.tokens.copperWash : undefined),
        '&:hover': { background: (t) => (isChosen ? t.tokens.copperWash : t.tokens.sheet) },
      }}
    >
      <Box sx={{ borderBottom: 2, borderColor: 'text.primary', mx: -1, lineHeight: 0 }}>
        <Thing of={s} largest={largest} size={size} aside={aside} />
      </Box>
      {place > 0 && (
        <Typography
          component="span"
          variant="figures"
          sx={{
            position: 'absolute',
            top: 4,
            left: 4,
            minWidth: 22,
            border: 1,
            borderColor: 'primary.main',
            color: 'primary.main',
            bgcolor: 'background.default',
          }}
        >
          {place}
        </Typography>
      )}
      {worst && (
        <Box
          component="span"
          aria-hidden
          sx={{
            position: 'absolute',
            top: 2,
            right: 8,
            fontWeight: 700,
            color: worst.grave ? 'error.main' : 'secondary.main',
          }}
        >
          {worst.grave ? '✕' : '!'}
        </Box>
      )}
      <Typography sx={{ fontWeight: 600, lineHeight: 1.2, mt: 0.5, overflowWrap: 'anywhere' }}>
        {s.item.name}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ lineHeight: 1.25 }}>
        {lines(s).map((line) => (
          <Box key={line} component="span" sx={{ display: 'block' }}>
            {line}
          </Box>
        ))}
      </Typography>
      {worst && (
        <Box component="span" sx={{ position: 'absolute', clipPath: 'inset(50%)' }}>
          {worst.text}
        </Box>
      )}
    </ButtonBase>
  );
}

/** What is told of a thing at a glance. */
function lines(s: Shelved): string[] {
  const i = s.item;
  const stock = s.have !== null && i.kind !== 'dop' ? `${plain(s.have)} ${i.unit}` : '';
  if (s.gone) return [k.gone];
  if (i.lap)
    return [
      s.grain > 0 ? micron(s.grain) : '',
      s.left !== null
        ? k.ofAbout(s.stones, plain(Math.round(s.goodFor)))
        : s.stones > 0
          ? k.stones(s.stones)
          : k.notYet,
    ].filter(Boolean);
  if (i.compound)
    return [i.compound.grain > 0 ? micron(i.compound.grain) : '', stock].filter(Boolean);
  if (i.adhesive) return [s.until ? k.until(dayOf(s.until)) : k.keeps, stock].filter(Boolean);
  if (i.dop) return s.stones > 0 ? [k.stones(s.stones)] : [];
  return [stock].filter(Boolean);
}

/** The arrow keys go from thing to thing. */
function walk(e: KeyboardEvent<HTMLElement>): void {
  const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
  if (by === undefined) return;
  const all = [...e.currentTarget.querySelectorAll<HTMLElement>('[data-thing]')];
  const at = all.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  e.preventDefault();
  all[Math.max(0, Math.min(all.length - 1, at + by))]!.focus();
}
