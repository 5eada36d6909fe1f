import { useQuery } from '@tanstack/react-query';
import type { Diagram } from '../../api/client';
import { proposalQuery } from '../../api/queries';
import { plainLooking, type Looking } from './looking';

/** How a diagram is looked at before anything is chosen: in the material that a plan of it
 * would begin with, or else at its own index. Not ready until that is known. */
export function useUsualLooking(d: Diagram): { looking: Looking; ready: boolean } {
  const proposal = useQuery({ ...proposalQuery(d.id), enabled: d.revision !== '', retry: false });
  return {
    looking: { ...plainLooking(d.draft), material: proposal.data?.material ?? '' },
    ready: !proposal.isLoading,
  };
}
