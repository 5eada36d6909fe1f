import type { StoneLine } from '../../api/client';
import { repairWords } from '../../words/repairs';

/** What a stone is, how it is called in lists, and where its page is. */
export const aboutOf = (s: StoneLine): string =>
  s.task === 'repair' ? repairWords.repair : s.diagram;

export const titleOf = (s: StoneLine): string => s.name || aboutOf(s);

export const pathOf = (s: StoneLine): string =>
  s.task === 'repair' ? `/repairs/${s.id}` : `/stones/${s.id}`;
