import type { StoneLine } from '../../api/client';
import { workPath } from './Works';
import { repairWords } from '../../words/repairs';
import { workWords } from '../../words/works';

/** What a stone is, how it is called in lists, and where its page is. */
export const aboutOf = (s: StoneLine): string =>
  s.task === 'repair'
    ? repairWords.repair
    : s.task === 'recut'
      ? `${s.diagram} · ${workWords.tasks.recut!}`
      : s.diagram;

export const titleOf = (s: StoneLine): string => s.name || aboutOf(s);

export const pathOf = (s: StoneLine): string => workPath(s.id, s.task);
