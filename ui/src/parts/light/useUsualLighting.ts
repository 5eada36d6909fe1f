import { useQuery } from '@tanstack/react-query';
import type { Diagram } from '../../api/client';
import { proposalQuery } from '../../api/diagrams';
import { usualQuery } from '../../api/settings';
import { plainLighting, type Lighting } from './lighting';

/** How a diagram is looked at before anything is chosen: in the material that a plan of it
 * would begin with, or else at its own index. Not ready until that is known. */
export function useUsualLighting(d: Diagram): { lighting: Lighting; ready: boolean } {
  const proposal = useQuery({ ...proposalQuery(d.id), enabled: d.revision !== '', retry: false });
  const usual = useQuery(usualQuery);
  return {
    lighting: {
      ...plainLighting(d.draft, usual.data?.width ?? 1),
      material: proposal.data?.material ?? '',
    },
    ready: !proposal.isLoading && usual.data !== undefined,
  };
}
