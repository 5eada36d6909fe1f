import { useMutation } from '@tanstack/react-query';
import type { Adaptation, BenchScript } from '../../../api/client';
import { addDiagram } from '../../../api/diagrams';
import { adaptStone } from '../../../api/stones';
import type { BenchState } from '../../../log/standing';
import { useNotice } from '../../../parts/notice';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { wheelWords as t } from '../../../words/wheel';
import { repeats } from '../order';
import type { Reread } from '../reread';

interface Given {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  reread: Reread;
  onClose: () => void;
}

/** Takes an adaptation: the plan gets it as its layer, and what has to come deeper is opened again. */
export function useAdapting({ script, state, log, reread, onClose }: Given) {
  const adapt = useMutation(adaptStone);
  const add = useMutation(addDiagram);
  const say = useNotice();
  return {
    error: adapt.error ?? add.error,
    busy: adapt.isPending || add.isPending,
    take: (of: Adaptation) =>
      adapt.mutate(
        { stone: script.stoneId, changes: of.changes, version: of.version },
        {
          onSuccess: () => {
            const deeper = of.tiers.filter((tier) => tier.deeper > 0).map((tier) => tier.name);
            log.add(
              deeper.flatMap((tier) => {
                // From the first lap that it has had: the last in the list.
                const from = repeats(script, state).findLast((a) => a.tier === tier);
                if (!from) return [];
                const { setup, passes, facets } = from;
                return [{ kind: 'again' as const, payload: { setup, passes, facets } }];
              }),
            );
            void reread();
            onClose();
          },
        },
      ),
    keep: (of: Adaptation) =>
      add.mutate(
        { draft: of.draft, origin: script.diagram, designed: false },
        { onSuccess: () => say({ text: t.diagramKept }) },
      ),
  };
}
