import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Diagram, PickedTier, SweptPoint } from '../../api/client';
import { LightView } from '../../parts/light/LightView';
import { Care, Figures } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { lightWords } from '../../words/light';
import { angle, carats, mm, ratio } from '../../words/numbers';
import { Margin } from '../../parts/stone/TierTable';
import { TakeOverState } from '../../parts/diagram/TakeOverState';
import { useTakeOver } from '../../parts/diagram/useTakeOver';
import { Explained } from '../../parts/light/FaceUpFigures';
import { axisText, placeText, valueText, type Field } from './field';
import { pickQuery } from '../../api/light';

interface Props {
  diagram: Diagram;
  field: Field;
  point: SweptPoint;
}

/** A point of a sweep: what it measures, how it looks, and the way to make it a variant. */
export function ChosenPoint({ diagram: d, field, point: p }: Props) {
  const s = lightWords.sweep;
  const takeOver = useTakeOver(d, s.kept);
  const asked = useQuery({
    ...pickQuery(field.id ?? '', p.x, p.y),
    enabled: p.whole && field.id !== undefined,
  });
  const picked = asked.isPlaceholderData ? undefined : asked.data;
  if (!p.whole) return <Care>{s.notWhole}</Care>;
  const keep = () =>
    picked &&
    takeOver.asVariant({
      ...picked.draft,
      name: s.variant(d.draft.name, placeText(field, p)),
    });
  return (
    <Box component="section" aria-label={s.chosen}>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mb: 2 }}>
        <Button variant="contained" disabled={!picked || takeOver.busy} onClick={keep}>
          {s.keep}
        </Button>
        {field.id === undefined && <Typography color="text.secondary">{s.keepFirst}</Typography>}
      </Box>
      <Refusal error={asked.error} />
      <TakeOverState of={takeOver} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 5 }}>
        <Figures
          rows={[
            [axisText(field.x, field.tiers), valueText(field.x, p.x)],
            [axisText(field.y, field.tiers), valueText(field.y, p.y)],
            [s.shallowest, <Margin key="margin" tier={p} />],
          ]}
        />
        <Figures
          rows={[
            [s.depth, mm(p.height)],
            [s.depthShare, ratio(p.heightWidth)],
            ...(p.tableWidth > 0 ? [[s.table, ratio(p.tableWidth)] as [string, string]] : []),
            ...(p.carats === null ? [] : [[s.weight, carats(p.carats)] as [string, string]]),
          ]}
        />
      </Box>
      <Explained figures={p} names={['return', 'window', 'headShadow', 'leak']} />
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        {lightWords.compares}
      </Typography>
      {picked && (
        <>
          <Box sx={{ my: 3 }}>
            <Typography variant="h3">{s.changed}</Typography>
            <Typography variant="figures">{movesText(picked.tiers)}</Typography>
          </Box>
          <LightView draft={picked.draft} lighting={field.lighting} height="300px" first="pale" />
        </>
      )}
    </Box>
  );
}

/** Which tiers move from where to where; tiers that move alike are named together. */
function movesText(tiers: PickedTier[]): string {
  const names = new Map<string, string[]>();
  for (const t of tiers) {
    const move = `${angle(t.from)}° → ${angle(t.to)}°`;
    names.set(move, [...(names.get(move) ?? []), t.name]);
  }
  return [...names].map(([move, of]) => `${of.join(' ')} ${move}`).join(' · ');
}
