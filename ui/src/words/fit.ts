/** What is said where a diagram is fitted to a machine and a material in one step. */
export const fitWords = {
  open: 'Fit to my machine and stone',
  title: 'Fit to my machine and stone',
  lead: 'Angles are rounded to what your machine sets, and moved where the diagram would lose light in this material. The stops are solved again and the gear is chosen. The diagram itself stays; what you take is a variant of it.',
  girdle: 'Girdle',
  move: 'Move the angles to the material',
  before: 'As it is drawn',
  after: 'Fitted',
  light: 'Light return',
  window: 'Window',
  shadow: 'Head shadow',
  margin: 'Margin of the shallowest tier',
  gap: 'Meets open by up to',
  weight: 'Weight',
  height: 'Height',
  girdleRow: 'Girdle',
  unsettable: 'Angles your machine cannot set',
  gear: (teeth: number, turn: string) =>
    turn
      ? `Gear ${teeth}, the stone turned by ${turn}°: no cheat needed.`
      : `Gear ${teeth}: fits, no cheat needed.`,
  cheats: (teeth: number, cheat: string) => `Gear ${teeth} fits best, with cheats up to ${cheat}°.`,
  noCheater: (gap: string) =>
    `Your machine has no cheater: at whole teeth meets open by up to ${gap}.`,
  moved: 'Angles',
  unmoved: 'No angle is moved.',
  angle: (name: string, from: string, to: string) => `${name} ${from}° → ${to}°`,
  take: 'Take it',
  name: (diagram: string, material: string) => `${diagram} for ${material.toLowerCase()}`,
  taken: 'Fitted; the plan goes on with the variant.',
};
