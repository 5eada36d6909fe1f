import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { AsCut } from '../../api/client';
import { asCutWords as t } from '../../words/asCut';
import { carats, hours, micron, mm, span } from '../../words/numbers';
import { w } from '../../words/words';
import { ChoiceList } from '../ChoiceList';
import { Figures } from '../Page';
import type { Side } from '../stone/geometry';
import { StoneInWheel } from '../stone/StoneInWheel';

interface Props {
  of: AsCut;
  /** The stones stand one over the other; else side by side. */
  stacked?: boolean;
  /** The difference that is looked at, by its place. */
  chosen: number | undefined;
}

/** The stone as planned and as it was cut, both turned the same way. */
export function AsCutStones({ of, stacked, chosen }: Props) {
  const [up, setUp] = useState<Side>(of.up);
  const marked = new Set(chosen === undefined ? [] : of.differences[chosen]?.faces);
  const stone = (mesh: AsCut['cut'], caption: string) => (
    <Box
      component="figure"
      sx={{ m: 0, minHeight: 0, minWidth: 0, display: 'flex', flexDirection: 'column' }}
    >
      <Box sx={stacked ? { flex: '1 1 0', minHeight: 0 } : { aspectRatio: '1', maxHeight: 340 }}>
        <StoneInWheel
          mesh={mesh}
          step={0}
          up={up}
          selected={marked}
          label={`${caption}, ${w.drawing.inWheel(up)}`}
        />
      </Box>
      <Typography component="figcaption" color="text.secondary" sx={{ textAlign: 'center' }}>
        {caption}
      </Typography>
    </Box>
  );
  return (
    <Box sx={{ height: stacked ? '100%' : undefined, display: 'flex', flexDirection: 'column' }}>
      <ToggleButtonGroup
        exclusive
        value={up}
        onChange={(_, v: Side | null) => v && setUp(v)}
        aria-label={t.side}
        sx={{ alignSelf: 'flex-start', mb: 1 }}
      >
        <ToggleButton value="crown">{w.drawing.crownUp}</ToggleButton>
        <ToggleButton value="pavilion">{w.drawing.pavilionUp}</ToggleButton>
      </ToggleButtonGroup>
      <Box
        sx={{
          flexGrow: 1,
          minHeight: 0,
          display: 'grid',
          gridTemplate: stacked ? '1fr 1fr / 1fr' : '1fr / 1fr 1fr',
          gap: 2,
        }}
      >
        {stone(of.planned, t.planned)}
        {stone(of.cut, t.cut)}
      </Box>
    </Box>
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
              t.stage(w.tiers.parts[h.side] ?? '', h.pass),
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
