/** What is said of passes and who goes without them. */
export const lapWords = {
  pass: 'Pass',
  lap: 'Lap',
  compound: 'Compound',
  byMaterial: 'by the material',
  add: 'Add a pass',
  remove: (name: string) => `Take out ${name}`,
  earlier: (name: string) => `${name} earlier`,
  uses: 'Who gets which lap',
  usesLead:
    'Take a lap away from a part, or from one tier. Most girdles stop early; the table often starts on a finer lap.',
  part: 'Part',
  groups: { pavilion: 'Pavilion', girdle: 'Girdle', crown: 'Crown', table: 'Table' },
  tiers: 'Tier by tier',
  gets: (who: string, pass: string) => `${who}: ${pass}`,
  tableAt: 'Table laps',
  tableAts: {
    through: 'all, at one adapter setting',
    each: 'each, with the other facets',
  } as Record<string, string>,
  usual: (material: string, kit: string) => `${material} is usually polished with: ${kit}.`,
  use: 'Use that',
  line: (name: string, lap: string, compound: string) =>
    [name, lap, compound].filter(Boolean).join(' · '),
  without: (who: string, passes: string) => `${who} without ${passes}`,
};
