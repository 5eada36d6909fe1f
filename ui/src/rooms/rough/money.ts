/** A sum that is given in minor units. */
export const money = (minor: number, currency: string): string =>
  (minor / 100).toLocaleString(
    navigator.language,
    currency
      ? { style: 'currency', currency }
      : { minimumFractionDigits: 2, maximumFractionDigits: 2 },
  );
