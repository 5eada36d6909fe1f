import type { Choices, Material } from '../../api/client';
import { freshID } from '../freshID';
import { lapWords as l } from '../../words/laps';

export type Laps = Pick<Choices, 'passes' | 'uses'>;
type Use = Laps['uses'][number];

/** The passes that a group goes without or, where a tier is named, that one of its tiers does. */
export function withoutOf(uses: readonly Use[], group: Use['group'], tier = ''): string[] {
  const own = uses.find((u) => u.group === group && u.tier === tier);
  return (own ?? uses.find((u) => u.group === group && u.tier === ''))?.without ?? [];
}

/** Gives a pass to a group or a tier, or takes it away. A tier that is like its group has no use of its own. */
export function toggled({ uses }: Laps, group: Use['group'], tier: string, pass: string): Use[] {
  const had = withoutOf(uses, group, tier);
  const without = had.includes(pass) ? had.filter((p) => p !== pass) : [...had, pass];
  const others = uses.filter((u) => u.group !== group || u.tier !== tier);
  const usual = tier === '' ? [] : withoutOf(others, group);
  const alike = without.length === usual.length && without.every((p) => usual.includes(p));
  return alike ? others : [...others, { group, tier, without }];
}

/** The uses without a pass that is taken out of the plan. */
export const usesWithout = (uses: readonly Use[], pass: string): Use[] =>
  uses
    .map((u) => ({ ...u, without: u.without.filter((p) => p !== pass) }))
    .filter((u) => u.tier !== '' || u.without.length > 0);

/**
 * The passes of a plan whose material changes: a last pass that was what the one is polished with
 * becomes what the other is. A cutter's own stays.
 */
export function repolished(
  passes: Laps['passes'],
  from: Material | undefined,
  to: Material | undefined,
): Laps['passes'] {
  const last = passes.at(-1);
  if (!last || !from || !to || from.name === to.name) return passes;
  if (last.lap !== from.polishLap || last.compound !== from.polishCompound) return passes;
  return [...passes.slice(0, -1), { ...last, ...polishOf(to) }];
}

/** The lap and the compound that a material is polished with here. */
export const polishOf = (m: Material) => ({
  lap: m.polishLap,
  lapItem: m.polishLapItem,
  compound: m.polishCompound,
  compoundItem: m.polishCompoundItem,
});

/** The passes over other laps of the kit, by their IDs: one that goes over such a lap already stays. */
export function overLaps(
  passes: Laps['passes'],
  laps: string[],
  nameOf: (id: string) => string,
): Laps['passes'] {
  const [first, last] = [passes[0]!, passes.at(-1)!];
  const out: Laps['passes'] = [first];
  for (const id of laps.slice(1, -1)) {
    const kept = passes.find((p) => p.lapItem === id);
    const name = nameOf(id);
    out.push(
      kept ?? {
        id: freshID([...passes, ...out], 'pass'),
        name,
        lap: name,
        lapItem: id,
        compound: '',
        compoundItem: '',
      },
    );
  }
  return [...out, last];
}

/** The laps in lines, for holding two against each other. */
export function lapLines({ passes, uses }: Laps): string[] {
  const name = (id: string) => passes.find((p) => p.id === id)?.name ?? '';
  return [
    ...passes.map((p) => l.line(p.name, p.lap, p.compound)),
    ...uses.map((u) => l.without(u.tier || l.groups[u.group], u.without.map(name).join(', '))),
  ];
}
