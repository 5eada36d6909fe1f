import { mm, plain } from './numbers';

/** What is said where a stone is brought to the seat of a setting. */
export const seatWords = {
  title: 'To the size of a setting',
  lead: 'Measure level across, from a girdle facet to what lies opposite. What is too much is told for each facet.',
  width: 'Seat, width',
  length: 'Seat, length',
  noGirdle: 'This stone has no girdle to measure across.',
  between: (tier: string, tooth: number, opposite: number | null) =>
    opposite === null
      ? `${tier} at ${tooth}, to the corner`
      : `${tier} at ${tooth} and ${opposite}`,
  is: (seat: number) => `to be ${mm(seat)}`,
  reads: (tier: string, tooth: number) => `Calipers ${tier} ${tooth}`,
  fits: 'It fits.',
  take: (each: string, divisions: string, opposite: boolean) =>
    `Take ${each} mm off ${opposite ? 'each' : 'it'}${divisions && `, ${divisions} divisions`}.`,
  takeBoth: (tooth: number, here: string, opposite: number, there: string) =>
    `Take ${here} mm off at ${tooth} and ${there} mm at ${opposite}.`,
  tooSmall: (by: number) =>
    `It is ${plain(Math.round(by * 100) / 100)} mm too small for the seat here. Nothing comes off; the setting has to close up.`,
};
