import { expect, test } from 'vitest';
import type { Draft } from '../../api/client';
import { w } from '../../words/words';
import { draftLines } from './draftLines';

const draft = {
  name: 'Plain',
  gear: '96',
  refractiveIndex: '1.54',
  outline: 'round',
  width: '',
  tiers: [{ name: 'P1', angle: '42', indexes: '96-48', stop: 'cutTo(-0.5)' }],
} as Draft;

test('two drafts that differ in the planned width alone differ in their lines', () => {
  expect(draftLines(draft)).toHaveLength(3);
  expect(draftLines({ ...draft, width: '8' })).toContain(`${w.diagrams.plannedWidth} 8`);
});
