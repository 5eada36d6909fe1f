import { useSearchParams } from 'react-router';
import type { Diagram } from '../../api/client';
import type { Lighting } from '../../parts/light/lighting';
import { useUsualLighting } from '../../parts/light/useUsualLighting';
import { parseNumber } from '../../words/numbers';

/** How a diagram is looked at, kept in the page's address. */
export function useLighting(d: Diagram): {
  lighting: Lighting;
  set: (change: Partial<Lighting>) => void;
  ready: boolean;
} {
  const [params, setParams] = useSearchParams();
  const { lighting: usual, ready } = useUsualLighting(d);
  const lighting: Lighting = {
    ...usual,
    material: params.get('material') ?? usual.material,
    tint: params.get('tint') ?? '',
    width: parseNumber(params.get('width') ?? '') ?? usual.width,
    model: (params.get('model') as Lighting['model'] | null) ?? usual.model,
    headAngle: parseNumber(params.get('head') ?? '') ?? usual.headAngle,
    frostedGirdle: params.get('girdle') === 'frosted',
  };
  const set = (change: Partial<Lighting>) => {
    const next = { ...lighting, ...change };
    const written = {
      material: next.material,
      tint: next.tint,
      width: String(next.width),
      model: next.model,
      head: String(next.headAngle),
      girdle: next.frostedGirdle ? 'frosted' : 'polished',
    };
    setParams({ ...Object.fromEntries(params), ...written }, { replace: true });
  };
  return { lighting, set, ready };
}
