import type { Choices } from '../../api/client';
import type { GlueSort, GluingPage, MountedDop, Mounting } from '../../api/gluing';

type Hold = Choices['holds'][number];

/** An adhesive that can be taken: a bottle of the kit, a sort, or what the plan names in words. */
export interface Glue {
  /** Its ID in the kit, '' for none there. */
  item: string;
  name: string;
  /** What is known of its sort; undefined where words do not tell it. */
  sort: GlueSort | undefined;
  minutes: number;
  needs: { text: string; grave: boolean }[];
}

/**
 * The adhesives for a mounting: first what suits it best, a bottle before a sort that the shelf lacks.
 * What the plan names comes along, whatever it is called.
 */
export function gluesOf(page: GluingPage, mounting: Mounting): Glue[] {
  const sortOf = (sort: string) => page.adhesives.find((a) => a.sort === sort);
  const place = page.mountings.indexOf(mounting);
  const hold = page.choices.holds[place];
  const bottles = page.bottles.map((b): Glue => ({
    item: b.item,
    name: b.name,
    sort: sortOf(b.sort),
    minutes: b.minutes,
    needs: b.needs,
  }));
  const others = page.adhesives
    .filter((a) => !page.bottles.some((b) => b.sort === a.sort))
    .map((a): Glue => ({ item: '', name: a.name, sort: a, minutes: a.minutes, needs: [] }));
  const all = [...bottles, ...others];
  if (hold && hold.adhesive !== '' && !all.some((x) => isInPlan(x, hold))) {
    const sort = sortOf(mounting.glue);
    all.unshift({
      item: hold.adhesiveItem,
      name: hold.adhesive,
      sort,
      minutes: sort?.minutes ?? 0,
      needs: [],
    });
  }
  // As the best dop of the mounting ranks their sorts.
  const order = mounting.dops[Math.max(0, mounting.taken)]!.bonds.map((b) => b.sort);
  const rank = (x: Glue) => {
    const at = x.sort ? order.indexOf(x.sort.sort) : -1;
    return (at < 0 ? order.length : at) + (x.needs.some((n) => n.grave) ? order.length : 0);
  };
  return all.sort((a, b) => rank(a) - rank(b));
}

/** Whether the plan names this adhesive. */
export const isInPlan = (x: Glue, hold: Hold | undefined): boolean =>
  hold !== undefined &&
  hold.adhesive !== '' &&
  (hold.adhesiveItem !== ''
    ? x.item === hold.adhesiveItem
    : x.item === '' && x.name === hold.adhesive);

/** A dop and an adhesive as a plan names them. */
export const heldWith = (
  dop: MountedDop,
  glue: Glue,
): Pick<Hold, 'dop' | 'dopItem' | 'adhesive' | 'adhesiveItem'> => ({
  dop: dop.name,
  dopItem: dop.item,
  adhesive: glue.name,
  adhesiveItem: glue.item,
});
