import { useSearchParams } from 'react-router';
import type { Lighting } from '../../parts/light/lighting';
import { parseNumber } from '../../words/numbers';

/** How a diagram is looked at: as is usual for it, with what the page's address says else. */
export function useLighting(usual: Lighting): {
  lighting: Lighting;
  set: (change: Partial<Lighting>) => void;
} {
  const [params, setParams] = useSearchParams();
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
  return { lighting, set };
}
