import type { StoneView } from '../../api/client';
import { Figures } from '../Page';
import { angle, ratio, span } from '../../words/numbers';
import { w } from '../../words/words';

/** The proportions of a stone, as ratios to its width. */
export function StoneFigures({ stone }: { stone: StoneView }) {
  const f = w.diagrams.figures;
  const m = stone.measures;
  const rows: [string, number | null | undefined, (number | null)?][] = [
    [f.lengthWidth, m.lengthWidth],
    [f.heightWidth, m.heightWidth],
    [f.crown, m.crownHeight],
    [f.girdle, m.girdleMin, m.girdleMax],
    [f.pavilion, m.pavilionDepth],
    [f.table, m.tableWidth],
    [f.volume, m.volumeFactor],
  ];
  return (
    <Figures
      rows={[
        ...(stone.complete ? [[f.facets, m.facets] as [string, number]] : []),
        ...(stone.complete ? rows : [])
          .filter((r) => typeof r[1] === 'number')
          .map(([name, v, most]): [string, string] => [name, span(v!, most ?? v!, ratio)]),
        [f.critical, `${angle(stone.criticalAngle)}°`],
      ]}
    />
  );
}
