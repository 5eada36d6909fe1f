import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Dial, StoneView, Tier } from '../../api/client';
import { Sheet } from '../Sheet';
import { angle, signed } from '../../words/numbers';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';

interface Props {
  stone: StoneView;
  /** The key of the selected tier. */
  selected?: string | null;
  /** A tier can be selected, or with null none of them. */
  onSelect?: (tier: string | null) => void;
  /** Looks at the stone without an optional tier, or with it again. */
  onOff?: (tier: string) => void;
}

/** The tiers in cutting order, as a sheet lists them. */
export function TierTable({ stone, selected = null, onSelect, onOff }: Props) {
  const head: Parameters<typeof Sheet>[0]['head'] = [
    w.tiers.tier,
    w.tiers.angle,
    [w.tiers.margin, w.tiers.marginHelp],
    w.tiers.indexes,
    w.tiers.stop,
  ];
  return (
    <Sheet dense head={head}>
      {stone.tiers.map((t) => (
        <Row
          key={t.key}
          tier={t}
          chosen={selected === t.key}
          onChoose={onSelect && (() => onSelect(selected === t.key ? null : t.key))}
          onOff={onOff && t.optional ? () => onOff(t.key) : undefined}
        />
      ))}
    </Sheet>
  );
}

interface RowProps {
  tier: Tier;
  chosen: boolean;
  onChoose: (() => void) | undefined;
  onOff: (() => void) | undefined;
}

function Row({ tier: t, chosen, onChoose, onOff }: RowProps) {
  return (
    <Box
      component="tr"
      onClick={onChoose}
      sx={{
        cursor: onChoose && 'pointer',
        background: (th) => (chosen ? th.tokens.copperWash : undefined),
        '&:hover': { background: (th) => (chosen || !onChoose ? undefined : th.tokens.sheet) },
      }}
    >
      <td className="figure">
        {onChoose ? (
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
        ) : (
          <strong>{t.name}</strong>
        )}
      </td>
      <td className="figure">
        {angle(t.angle)}°
        <Settable tier={t} />
      </td>
      <td>
        <Margin tier={t} />
      </td>
      <Box
        component="td"
        className="figure"
        // Four indexes of two digits in a line.
        sx={{ whiteSpace: 'normal !important', minWidth: '13ch' }}
      >
        {t.dials
          .map((d) => String(d.tooth) + (d.cheat === 0 ? '' : `(${cheatWords(d)})`))
          .join(' ')}
      </Box>
      <td>
        {t.leftOff ? editingWords.tier.leftOff : t.stop}
        {chosen && <Reasons tier={t} />}
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

type Angled = Pick<Tier, 'below' | 'above' | 'outOfReach'>;
type Judged = Pick<Tier, 'margin' | 'judgement'>;

/** Why this machine cannot set an angle; '' where it can. */
function unsettable(t: Angled): string {
  if (t.outOfReach) return editingWords.outOfReach;
  return t.below === t.above ? '' : editingWords.settable(angle(t.below), angle(t.above));
}

/** What a margin means for the light; '' where it is wide enough. */
function endangered(t: Judged): string {
  if (t.margin === null || t.judgement === 'good') return '';
  return t.judgement === 'error' ? w.tiers.below(angle(-t.margin)) : w.tiers.near(angle(t.margin));
}

/** What the marks of a tier say, in words: marks alone need a pointer to be read. */
export function Reasons({ tier: t }: { tier: Angled & Judged }) {
  const reasons = [endangered(t), unsettable(t)].filter(Boolean);
  if (reasons.length === 0) return null;
  return <Box sx={{ color: 'text.secondary' }}>{reasons.join('; ')}</Box>;
}

/** Marks an angle that this machine cannot set, and tells its neighbours. */
export function Settable({ tier }: { tier: Angled }) {
  const why = unsettable(tier);
  if (why === '') return null;
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
export function Margin({ tier }: { tier: Judged }) {
  if (tier.margin === null) return null;
  const text = signed(tier.margin) + '°';
  const why = endangered(tier);
  if (why === '') return <span className="figure">{text}</span>;
  const grave = tier.judgement === 'error';
  return (
    <Box
      component="span"
      className="figure"
      title={why}
      aria-label={`${text}: ${why}`}
      role="img"
      sx={{ color: grave ? 'error.main' : 'secondary.main', fontWeight: 600 }}
    >
      {grave ? '✕' : '!'} {text}
    </Box>
  );
}
