import { useTheme } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import type { Picture } from '../api/client';
import { pictureQuery } from '../api/diagrams';

/** A small drawing of a version of a diagram from above and from the side, '' for none. */
export function Thumbnail({ hash, size }: { hash: string; size: number }) {
  const { tokens } = useTheme();
  const { data: picture } = useQuery(pictureQuery(hash));
  if (!picture) return <svg width={size * 2} height={size} aria-hidden />;
  const scale = 0.78 / reach(picture.above);
  const heights = picture.side.flatMap(corners).map(([, y]) => y);
  const middle = (Math.max(...heights) + Math.min(...heights)) / 2;
  return (
    <svg width={size * 2} height={size} viewBox="-0.82 -0.82 3.28 1.64" aria-hidden>
      <g stroke={tokens.ink} strokeWidth={0.011} fill={tokens.facetLight} strokeLinejoin="round">
        <Polygons list={picture.above} transform={`scale(${scale})`} />
        <Polygons
          list={picture.side}
          transform={`translate(1.64 ${middle * scale}) scale(${scale})`}
        />
      </g>
    </svg>
  );
}

function Polygons({ list, transform }: { list: Picture['above']; transform: string }) {
  return (
    <g transform={transform}>
      {list.map((p, i) => (
        <polygon
          key={i}
          points={corners(p)
            .map(([x, y]) => `${x},${-y}`)
            .join(' ')}
          vectorEffect="non-scaling-stroke"
          strokeWidth={0.9}
        />
      ))}
    </g>
  );
}

/** The corners of a polygon that lists x and y in turn. */
function corners(polygon: readonly number[]): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0; i + 1 < polygon.length; i += 2) out.push([polygon[i]!, polygon[i + 1]!]);
  return out;
}

/** How far the stone reaches from the middle of the drawing, in widths. */
function reach(polygons: Picture['above']): number {
  return Math.max(0.5, ...polygons.flat().map(Math.abs));
}
