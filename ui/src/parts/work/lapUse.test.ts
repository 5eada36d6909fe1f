import { expect, test } from 'vitest';
import { toggled, usesWithout, withoutOf } from './lapUse';

const passes = ['cut', 'fine', 'polish'].map((id) => ({
  id,
  name: id,
  lap: '',
  compound: '',
  lapItem: '',
  compoundItem: '',
}));

test('a tier goes without what its group does, until it has a use of its own', () => {
  let uses = toggled({ passes, uses: [] }, 'crown', '', 'fine');
  expect(withoutOf(uses, 'crown', 'C1')).toEqual(['fine']);
  uses = toggled({ passes, uses }, 'crown', 'C2', 'cut');
  expect(withoutOf(uses, 'crown', 'C2')).toEqual(['fine', 'cut']);
  expect(withoutOf(uses, 'crown', 'C1')).toEqual(['fine']);
  expect(withoutOf(uses, 'pavilion', 'P1')).toEqual([]);
  // One that is like its group again has none.
  uses = toggled({ passes, uses }, 'crown', 'C2', 'cut');
  expect(uses).toEqual([{ group: 'crown', tier: '', without: ['fine'] }]);
});

test('a tier that gets all keeps that against a group that does not', () => {
  const uses = toggled(
    { passes, uses: [{ group: 'girdle', tier: '', without: ['polish'] }] },
    'girdle',
    'G1',
    'polish',
  );
  expect(withoutOf(uses, 'girdle', 'G1')).toEqual([]);
  // The group's use of a pass that is taken out goes with it; the tier's exception stays.
  expect(usesWithout(uses, 'polish')).toEqual([{ group: 'girdle', tier: 'G1', without: [] }]);
});
