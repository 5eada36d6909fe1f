import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Choices } from '../../api/client';
import { shelfQuery } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { NumberField } from '../fields/NumberField';
import { KitField } from './KitField';
import { Care } from '../Page';
import { kitWords } from '../../words/kit';

const k = kitWords.holds;

type Hold = Choices['holds'][number];

const none: Hold = { dop: '', dopItem: '', adhesive: '', adhesiveItem: '', tilt: 0, towards: 0 };

interface Props {
  holds: Hold[];
  /** The side that is cut first; undefined where that is left to the diagram. */
  first?: Choices['firstSide'];
  /** What faces up in each dop-up, where there are others than one for each side. */
  dopUps?: readonly string[];
  onChange: (holds: Hold[]) => void;
}

/** The dop and the adhesive of each side, in the order of the work. */
export function HoldChoices({ holds, first, dopUps = [], onChange }: Props) {
  const { data: shelf } = useQuery(shelfQuery);
  const usual = {
    pavilion: [k.pavilion, k.crown],
    crown: [k.crown, k.pavilion],
    drawn: [k.first, k.second],
  }[first ?? 'drawn'];
  const sides = dopUps.length > 0 ? dopUps : usual;
  const of = (i: number) => holds[i] ?? none;
  const set = (i: number, change: Partial<Hold>) =>
    onChange(sides.map((_, n) => (n === i ? { ...of(n), ...change } : of(n))));
  const bad = [...new Set(holds.map((h) => h.adhesiveItem))]
    .map((id) => shelf?.find((s) => s.item.id === id))
    .filter((s) => s?.needs.some((n) => n.grave));
  return (
    <Box role="group" aria-label={k.head} sx={{ my: 4 }}>
      <Typography variant="h3" gutterBottom sx={{ mb: 3 }}>
        {k.head}
      </Typography>
      {sides.map((side, i) => (
        <Box
          key={side}
          sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, mb: 2, alignItems: 'center' }}
        >
          <Typography sx={{ width: 110, flexShrink: 0 }}>{side}</Typography>
          <KitField
            label={`${kitWords.pick.dop}, ${side}`}
            kind="dop"
            text={of(i).dop}
            item={of(i).dopItem}
            onChange={(dop, dopItem) => set(i, { dop, dopItem })}
          />
          <KitField
            label={`${kitWords.pick.adhesive}, ${side}`}
            kind="adhesive"
            text={of(i).adhesive}
            item={of(i).adhesiveItem}
            onChange={(adhesive, adhesiveItem) => set(i, { adhesive, adhesiveItem })}
          />
          {first && (
            <>
              <NumberField
                label={`${k.tilt}, ${side}`}
                unit="°"
                {...ranges.Hold.tilt}
                width={150}
                optional="0"
                value={of(i).tilt || undefined}
                onChange={(tilt) => set(i, { tilt: tilt ?? 0 })}
              />
              {of(i).tilt > 0 && (
                <NumberField
                  label={`${k.towards}, ${side}`}
                  {...ranges.Hold.towards}
                  width={150}
                  value={of(i).towards}
                  onChange={(towards) => set(i, { towards })}
                />
              )}
            </>
          )}
        </Box>
      ))}
      {holds.some((h) => h.tilt > 0) && <Typography>{k.tipped}</Typography>}
      {bad.map((s) => (
        <Care key={s!.item.id} grave>
          <strong>{s!.item.name}: </strong>
          {s!.needs.find((n) => n.grave)!.text}
        </Care>
      ))}
    </Box>
  );
}
