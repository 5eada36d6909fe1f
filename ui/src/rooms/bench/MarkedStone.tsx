import type { BenchScript } from '../../api/client';
import type { Vec } from '../../parts/stone/geometry';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { upOf } from '../../parts/stone/setups';

interface Props {
  script: BenchScript;
  /** The step of the picture that is cut. */
  step: number;
  /** The place of the setup that is up. */
  setup: number;
  /** The facets that are meant; those of another setup are marked and not dialled. */
  facets: readonly BenchScript['facets'][number][];
  label: string;
  /** A point to ring. */
  ring?: Vec | undefined;
  /** A facet was touched, and the point of the stone where. */
  onPick?: ((facet: number) => void) | undefined;
  onPoint?: ((point: Vec) => void) | undefined;
}

/** The stone as it is, in its wheel, with the facets marked that are spoken of. */
export function MarkedStone({ script, step, setup, facets, label, ...touch }: Props) {
  return (
    <StoneInWheel
      mesh={script.mesh}
      step={step}
      up={upOf(script.setups[setup]!)}
      wheel={script.wheel}
      lit={facets.filter((f) => f.setup === setup).map((f) => f.dial)}
      selected={new Set(facets.map((f) => f.no))}
      label={label}
      {...touch}
    />
  );
}
