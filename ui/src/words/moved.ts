import { angle, signed } from './numbers';

/** What is said of a stone that sits otherwise on its dop than it was glued. */
export const movedWords = {
  title: 'How the stone sits',
  lead: 'Bring facets that are cut flush with a flat, still lap, and type where the machine stands then.',
  enough: 'Two tell how it sits; a third finds one that was misread.',
  nothing: 'No facet is cut yet that can be brought flush: the stone can sit as it likes.',
  was: (tier: string, tooth: number, at: string) => `${tier} at ${tooth} · was ${at}°`,
  angle: 'Protractor',
  index: 'Index',
  corrected: 'What is dialled was corrected last for how the stone sits. Nothing is cut since.',
  takeBack: 'Take the correction back',
  readAgain: 'Nudged: read again',
  off: (degrees: number) => `off by ${angle(Math.round(degrees * 100) / 100)}°`,
  straight: 'It sits as it was glued.',
  leans: (tilt: number, towards: number) =>
    `It leans by ${angle(Math.round(tilt * 100) / 100)}° towards index ${angle(Math.round(towards * 10) / 10)}`,
  twisted: (twist: number) => `it is twisted by ${signed(Math.round(twist * 100) / 100)}°`,
  uncertain: (degrees: number) =>
    `Known to ${angle(Math.max(0.01, Math.round(degrees * 100) / 100))}°, from what this machine repeats.`,
  fits: 'All readings fit each other.',
  misread: (facets: string) =>
    `The readings do not fit. Read ${facets} again: it alone would explain that.`,
  noFit:
    'The readings do not fit each other, and no single one explains it. Clean the lap and the facets, and read them all again.',
  beyond: (tiers: string) =>
    `The machine does not reach ${tiers} on a stone that leans so. Nudge the wax instead, and read again after it.`,
};
