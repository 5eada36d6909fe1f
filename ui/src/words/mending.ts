import { hours, micron, mm, percent, plain, thousandths } from './numbers';

/** What is said of a cut gone wrong. */
export const mendingWords = {
  title: 'Ways out',
  open: 'Ways out of it',
  lead: 'What each way costs for the stone as it stands. A digit looks at a way, Enter takes it.',
  nothing:
    'Nothing has gone wrong since the plan was made, as far as the log tells. Tell what happened first.',
  at: (tier: string, tooth: number, what: string) => (tier ? `${tier} at ${tooth}: ${what}` : what),
  stands: 'as it stands',
  loss: (share: number) => {
    if (Math.abs(share) < 0.0005) return 'nothing lost';
    return share < 0 ? `${percent(-share)} heavier` : `${percent(share)} lost`;
  },
  work: (facets: number, minutes: number) =>
    facets === 0
      ? 'nothing again'
      : `${facets} ${facets === 1 ? 'facet' : 'facets'} again, ${hours(minutes / 60)} h`,
  planned: 'planned',
  will: 'this way',
  weight: 'Weight',
  width: 'Width',
  height: 'Height',
  girdle: 'Girdle',
  light: 'Light returned',
  window: 'Window',
  gap: 'Widest gap at a meet',
  /** What an eye sees of a gap in µm: a tenth of a millimetre without a glass, a hundredth with one. */
  seen: (gap: number) => {
    if (gap < 0.5) return 'All meets come together.';
    if (gap < 10) return `No meet is open by more than ${micron(gap)}: a loupe hardly shows it.`;
    if (gap < 100) return `A meet is open by ${micron(gap)}: the loupe shows it, the eye does not.`;
    return `A meet is open by ${micron(gap)}: it is seen without a loupe.`;
  },
  turnsBack: (times: number) => {
    if (times === 0) return '';
    const more = times === 1 ? 'once more for it' : `${times} times more for it, each time`;
    return `The stone is turned over ${more} on a new bond.`;
  },
  take: (tier: string, facets: number, least: number, most: number) =>
    `${tier}: ${facets} ${facets === 1 ? 'facet' : 'facets'}, ${range(least, most, thousandths)} mm`,
  divisions: (least: number, most: number) =>
    `${range(Math.round(least * 10) / 10, Math.round(most * 10) / 10, plain)} divisions`,
  scale: (scale: number) => `${percent(scale)} of the planned size`,
  cutSo: 'Go this way',
  mended: (way: string) => `This stone was mended: ${way}.`,
  takeBack: 'Take that back',
  girdleOf: (least: number | null, most: number | null) =>
    least === null || most === null ? 'none' : range(least, most, mm),
};

const range = (least: number, most: number, text: (v: number) => string): string =>
  text(least) === text(most) ? text(most) : `${text(least)} to ${text(most)}`;
