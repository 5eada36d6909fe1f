import type { Item, ItemPage, Shelved } from '../api/kit';

/** Whole records of the kit, for tests to change. */

export const itemOf = (change: Partial<Item> = {}): Item => ({
  id: 'i1',
  kind: 'lap',
  name: '600',
  note: '',
  unit: '',
  low: 0,
  shelfMonths: 0,
  lasts: 0,
  lap: {
    surface: 'metal',
    of: 'tin',
    grain: 0,
    polishes: true,
    diameter: 150,
    hub: 40,
    side: '',
    keptFor: '',
  },
  compound: null,
  adhesive: null,
  dop: null,
  gear: null,
  blade: null,
  version: 1,
  ...change,
});

export const shelvedOf = (change: Partial<Omit<Shelved, 'item'>> = {}): Omit<Shelved, 'item'> => ({
  gone: false,
  have: null,
  opened: '',
  until: '',
  grain: 0.3,
  charge: null,
  flatness: null,
  area: 164.1,
  stones: 0,
  facets: 0,
  allStones: 0,
  allFacets: 0,
  used: null,
  goodFor: 0,
  learnedFrom: 0,
  left: null,
  on: [],
  ways: [],
  needs: [],
  ...change,
});

export const pageOf = ({
  item,
  ...change
}: Partial<Omit<ItemPage, 'item'>> & { item?: Partial<Item> } = {}): ItemPage => ({
  ...shelvedOf(),
  allWays: [],
  met: [],
  usedOn: [],
  history: [],
  ...change,
  item: itemOf(item),
});
