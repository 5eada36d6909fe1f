import type { Summary } from '../../api/client';
import { repairWords } from '../../words/repairs';

/** How a stone is called in lists, what it is, and where its page is. */
export const titleOf = (s: Summary): string => s.name || s.work.plan.diagramName;

export const aboutOf = (s: Summary): string =>
  s.work.kind === 'repair' ? repairWords.repair : s.work.plan.diagramName;

export const pathOf = (s: Summary): string =>
  s.work.kind === 'repair' ? `/repairs/${s.id}` : `/stones/${s.id}`;
