import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { AsCut } from '../../api/client';
import { asCutWords as t } from '../../words/asCut';
import { carats, hours, micron, mm, span } from '../../words/numbers';
import { w } from '../../words/words';
import { ChoiceList } from '../ChoiceList';
import { Figures } from '../Page';
import { StonesBeside } from '../stone/StonesBeside';

interface Props {
  of: AsCut;
  /** The stones stand one over the other; else side by side. */
  stacked?: boolean;
  /** The difference that is looked at, by its place. */
  chosen: number | undefined;
}

/** The stone as planned and as it was cut, both turned the same way. */
export function AsCutStones({ of, stacked, chosen }: Props) {
  const marked = new Set(chosen === undefined ? [] : of.differences[chosen]?.faces);
  return (
    <StonesBeside
      up={of.up}
      stacked={stacked}
      marked={marked}
      stones={[
        [t.planned, of.planned],
        [t.cut, of.cut],
      ]}
    />
  );
}

interface ListProps {
  of: AsCut;
  chosen: number | undefined;
  onChoose: (place: number | undefined) => void;
  row?: number;
}

/** What is otherwise than planned, and what comes of it. */
export function AsCutList({ of, chosen, onChoose, row }: ListProps) {
  const { differences: all } = of;
  const lines: [ReactNode, string, string][] = [
    [t.weight, carats(of.meant.carats), carats(of.coming.carats)],
    [w.stones.width, mm(of.meant.width), mm(of.coming.width)],
    [w.stones.length, mm(of.meant.length), mm(of.coming.length)],
    [w.stones.height, mm(of.meant.height), mm(of.coming.height)],
    [t.girdle, girdleOf(of.meant), girdleOf(of.coming)],
    [t.gap, '–', of.gap > 0.05 ? micron(of.gap) : '–'],
  ];
  return (
    <>
      <Typography>
        {t.facets(of.facetsCut, of.facetsAsked)}{' '}
        {all.length === 0 ? t.same : t.differences(all.length)}
      </Typography>
      {of.told !== '' && <Typography color="text.secondary">{t.told(of.told)}</Typography>}
      {all.length > 0 && (
        <ChoiceList
          label={t.list}
          list={all}
          keyOf={(_, i) => i}
          isChosen={(_, i) => i === chosen}
          onChoose={(_, i) => onChoose(i === chosen ? undefined : i)}
          row={row}
        >
          {(d) => (
            <>
              <span>{t.at(d.tier, d.tooth)}</span>
              <Typography component="span" sx={{ textAlign: 'right' }}>
                {d.text}
              </Typography>
            </>
          )}
        </ChoiceList>
      )}
      <Box component="table" sx={{ width: '100%', borderCollapse: 'collapse', mt: 3 }}>
        <thead>
          <tr>
            <td />
            {[t.meant, t.coming].map((head) => (
              <Box component="th" scope="col" key={head} sx={{ textAlign: 'right', pl: 3 }}>
                {head}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(([name, was, is], i) => (
            <Box component="tr" key={i} sx={{ borderTop: 1, borderColor: 'divider' }}>
              <Box
                component="th"
                scope="row"
                sx={{ textAlign: 'left', fontWeight: 400, color: 'text.secondary', py: 0.5 }}
              >
                {name}
              </Box>
              {[was, is].map((value, k) => (
                <Box
                  component="td"
                  key={k}
                  sx={{ textAlign: 'right', pl: 3, whiteSpace: 'nowrap' }}
                >
                  <Typography
                    variant="figures"
                    sx={{ fontWeight: k === 1 && was !== is && was !== '–' ? 700 : undefined }}
                  >
                    {value}
                  </Typography>
                </Box>
              ))}
            </Box>
          ))}
        </tbody>
      </Box>
      {of.hours.length > 0 && (
        <Box component="section" aria-label={t.hours} sx={{ mt: 3 }}>
          <Typography variant="h3" component="h4">
            {t.hours}
          </Typography>
          <Figures
            rows={of.hours.map((h) => [
              t.stage(w.tiers.parts[h.side] ?? h.side, h.pass),
              `${hours(h.hours)} ${w.units.hours}`,
            ])}
          />
        </Box>
      )}
      {of.facetsCut < of.facetsAsked && (
        <Typography color="text.secondary" sx={{ mt: 1 }}>
          {t.comingLead}
        </Typography>
      )}
    </>
  );
}

const girdleOf = (f: AsCut['meant']): string =>
  f.girdleMin === null || f.girdleMax === null ? '–' : span(f.girdleMin, f.girdleMax, mm);
