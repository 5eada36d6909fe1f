import type { Candidate } from '../../api/rough';
import { roughWords } from '../../words/rough';

/** How often a piece is searched at most before the search rests: it ends as soon as nothing grows. */
export const searchRounds = 6;

/** What a stone touches: flaws and saw cuts by name, natural faces by their number. */
export function limitsOf(all: Candidate['limitedBy']): string {
  const named = all.filter((l) => l.kind !== 'face').map((l) => l.name);
  const faces = all.length - named.length;
  return [...named, ...(faces > 0 ? [roughWords.fit.faces(faces)] : [])].join(', ');
}
