import type { Summary } from '../../api/client';
import { repairWords } from '../../words/repairs';

/** What a stone is, how it is called in lists, and where its page is. */
export const aboutOf = (s: Summary): string => s.work.plan?.diagramName ?? repairWords.repair;

export const titleOf = (s: Summary): string => s.name || aboutOf(s);

export const pathOf = (s: Summary): string =>
  s.work.kind === 'repair' ? `/repairs/${s.id}` : `/stones/${s.id}`;
