import type { Draft } from '../../api/client';
import { w } from '../../words/words';

/** A draft in lines, for holding two against each other. */
export const draftLines = (d: Draft): string[] => [
  d.name,
  `${w.diagrams.gear} ${d.gear} · n ${d.refractiveIndex} · ${d.outline}`,
  ...(d.width ? [`${w.diagrams.plannedWidth} ${d.width}`] : []),
  ...d.tiers.map((t) => `${t.name} ${t.angle}° ${t.indexes} · ${t.stop}`),
];
