import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Dial, StoneView, Tier } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { angle, signed } from '../../words/numbers';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';

interface Props {
  stone: StoneView;
  selected: string | null;
  onSelect: (tier: string | null) => void;
  /** Looks at the stone without an optional tier, or with it again. */
  onOff?: (place: number) => void;
}

/** The tiers in cutting order, as a sheet lists them. */
export function TierTable({ stone, selected, onSelect, onOff }: Props) {
  const head: Parameters<typeof Sheet>[0]['head'] = [
    w.tiers.tier,
    w.tiers.angle,
    [w.tiers.margin, w.tiers.marginHelp],
    w.tiers.indexes,
    w.tiers.stop,
  ];
  return (
    <Sheet dense head={head}>
      {stone.tiers.map((t, i) => (
        <Row
          key={i}
          tier={t}
          chosen={selected === String(i)}
          onChoose={() => onSelect(selected === String(i) ? null : String(i))}
          onOff={onOff && t.optional ? () => onOff(i) : undefined}
        />
      ))}
    </Sheet>
  );
}

interface RowProps {
  tier: Tier;
  chosen: boolean;
  onChoose: () => void;
  onOff: (() => void) | undefined;
}

function Row({ tier: t, chosen, onChoose, onOff }: RowProps) {
  return (
    <Box
      component="tr"
      onClick={onChoose}
      sx={{
        cursor: 'pointer',
        background: (th) => (chosen ? th.tokens.copperWash : undefined),
        '&:hover': { background: (th) => (chosen ? undefined : th.tokens.sheet) },
      }}
    >
      <td className="figure">
        <Box
          component="button"
          type="button"
          aria-pressed={chosen}
          sx={{
            all: 'unset',
            cursor: 'pointer',
            fontWeight: 600,
            minWidth: 44,
            '&:focus-visible': { outline: 2 },
          }}
        >
          {t.name}
        </Box>
      </td>
      <td className="figure">
        {angle(t.angle)}°
        <Settable tier={t} />
      </td>
      <td>
        <Margin tier={t} />
      </td>
      <Box component="td" className="figure" sx={{ whiteSpace: 'normal !important' }}>
        {t.dials
          .map((d) => String(d.tooth) + (Math.abs(d.cheat) >= 0.005 ? `(${cheatWords(d)})` : ''))
          .join(' ')}
      </Box>
      <td>
        {t.leftOff ? editingWords.tier.leftOff : t.stop}
        {t.note && <Box sx={{ color: 'text.secondary' }}>{t.note}</Box>}
        {onOff && (
          <Button
            size="small"
            variant="text"
            aria-pressed={t.leftOff}
            onClick={(e) => {
              // The row itself is not meant.
              e.stopPropagation();
              onOff();
            }}
          >
            {t.leftOff ? editingWords.tier.on(t.name) : editingWords.tier.off(t.name)}
          </Button>
        )}
      </td>
    </Box>
  );
}

/** A cheat as this machine sets it: in degrees, or in turns of its knob. */
const cheatWords = (d: Dial): string =>
  d.cheatTurns ? w.tiers.turns(signed(d.cheatTurns)) : w.tiers.cheat(signed(d.cheat));

/** Marks an angle that this machine cannot set, and tells its neighbours. */
export function Settable({ tier: t }: { tier: Pick<Tier, 'below' | 'above' | 'outOfReach'> }) {
  if (t.below === t.above && !t.outOfReach) return null;
  const why = t.outOfReach
    ? editingWords.outOfReach
    : editingWords.settable(angle(t.below), angle(t.above));
  return (
    <Box
      component="span"
      role="img"
      title={why}
      aria-label={why}
      sx={{ color: 'secondary.main', fontWeight: 600, ml: 1 }}
    >
      ∤
    </Box>
  );
}

/** How far a pavilion tier stands above the critical angle; what needs care carries a sign as well. */
export function Margin({ tier }: { tier: Pick<Tier, 'margin' | 'judgement'> }) {
  if (tier.margin === null) return null;
  const said = signed(tier.margin) + '°';
  if (tier.judgement === 'good') return <span className="figure">{said}</span>;
  const grave = tier.judgement === 'error';
  const why = grave ? w.tiers.below(angle(-tier.margin)) : w.tiers.near(angle(tier.margin));
  return (
    <Box
      component="span"
      className="figure"
      title={why}
      aria-label={`${said}: ${why}`}
      role="img"
      sx={{ color: grave ? 'error.main' : 'secondary.main', fontWeight: 600 }}
    >
      {grave ? '✕' : '!'} {said}
    </Box>
  );
}
