import { remember, remembered } from '../../log/remember';

/** What a carat of a finished stone brings, from a weight on: heavier stones bring more by the carat. */
export interface Price {
  /** From how many carats it holds, and what a carat brings then, in the parcel's currency. */
  from: number;
  carat: number;
}

const key = (material: string): string => `cressa-prices/${material}`;

/** The prices of a material that were typed in this browser, the lightest stones first. */
export function pricesOf(material: string): Price[] {
  try {
    const list = JSON.parse(remembered(key(material)) ?? '[]') as Price[];
    return list.filter((p) => Number.isFinite(p.from) && Number.isFinite(p.carat));
  } catch {
    return [];
  }
}

export const keepPrices = (material: string, prices: readonly Price[]): void =>
  remember(key(material), prices.length > 0 ? JSON.stringify(prices) : null);

/** What a stone of so many carats is worth, undefined where no price is known for such a light one. */
export function valueOf(carats: number, prices: readonly Price[]): number | undefined {
  const at = prices.filter((p) => p.from <= carats).sort((a, b) => b.from - a.from)[0];
  return at && carats * at.carat;
}
