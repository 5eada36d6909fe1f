import { useSearchParams } from 'react-router';
import type { Diagram } from '../../api/client';
import type { Looking } from '../../parts/light/looking';
import { useUsualLooking } from '../../parts/light/useUsualLooking';
import { parseNumber } from '../../words/numbers';

/** How a diagram is looked at, kept in the page's address. */
export function useLooking(d: Diagram): {
  looking: Looking;
  set: (change: Partial<Looking>) => void;
  ready: boolean;
} {
  const [params, setParams] = useSearchParams();
  const { looking: usual, ready } = useUsualLooking(d);
  const looking: Looking = {
    ...usual,
    material: params.get('material') ?? usual.material,
    tint: params.get('tint') ?? '',
    width: parseNumber(params.get('width') ?? '') ?? usual.width,
    model: (params.get('model') as Looking['model'] | null) ?? usual.model,
    headAngle: parseNumber(params.get('head') ?? '') ?? usual.headAngle,
    frostedGirdle: params.get('girdle') === 'frosted',
  };
  const set = (change: Partial<Looking>) => {
    const next = { ...looking, ...change };
    const said = {
      material: next.material,
      tint: next.tint,
      width: String(next.width),
      model: next.model,
      head: String(next.headAngle),
      girdle: next.frostedGirdle ? 'frosted' : 'polished',
    };
    setParams({ ...Object.fromEntries(params), ...said }, { replace: true });
  };
  return { looking, set, ready };
}
