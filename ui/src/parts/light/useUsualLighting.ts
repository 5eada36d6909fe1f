import { useQuery } from '@tanstack/react-query';
import type { Diagram } from '../../api/client';
import { proposalQuery } from '../../api/diagrams';
import { usualQuery } from '../../api/settings';
import { plainLighting, type Lighting } from './lighting';

/** How a diagram is looked at before anything is chosen: in the material that a plan of it
 * would begin with, or else at its own index. */
export function useUsualLighting(d: Diagram) {
  const proposal = useQuery({ ...proposalQuery(d.id), enabled: d.revision !== '', retry: false });
  const { data: usual, isError, error, refetch } = useQuery(usualQuery);
  const data: Lighting | undefined =
    proposal.isLoading || !usual
      ? undefined
      : { ...plainLighting(d.draft, usual), material: proposal.data?.material ?? '' };
  return { data, isError, error, refetch };
}
