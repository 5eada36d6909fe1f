import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { useState } from 'react';
import type { Material } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { serve } from '../../testing/server';
import { lapWords as l } from '../../words/laps';
import { LapChoices } from './LapChoices';
import { repolished, type Laps } from './lapUse';

afterEach(cleanup);

const spinel = {
  name: 'Spinel',
  polishLap: 'tin',
  polishCompound: 'alumina',
  polishLapItem: 'i1',
  polishCompoundItem: '',
} as Material;
const quartz = {
  name: 'Quartz',
  polishLap: 'plastic',
  polishCompound: 'cerium',
  polishLapItem: '',
  polishCompoundItem: '',
} as Material;

const begun: Laps = {
  passes: [
    { id: 'cut', name: 'Cut', lap: '600', compound: '', lapItem: '', compoundItem: '' },
    { id: 'polish', name: 'Polish', lap: 'leather', compound: '', lapItem: '', compoundItem: '' },
  ],
  uses: [],
};

let kept = begun;

function Form() {
  const [laps, setLaps] = useState(begun);
  const keep = (next: Laps) => {
    kept = next;
    setLaps(next);
  };
  const tiers = [
    { tier: 'P1', group: 'pavilion' as const },
    { tier: 'G1', group: 'girdle' as const },
    { tier: 'G2', group: 'girdle' as const },
  ];
  return (
    <LapChoices
      head="Passes"
      laps={laps}
      tiers={tiers}
      material={spinel}
      onChange={(change) => keep({ ...laps, ...change })}
    />
  );
}

function open() {
  serve({ 'GET /api/kit': () => ({ items: [] }) });
  renderInApp(<Form />);
}

const box = (who: string, pass: string) =>
  screen.getByRole<HTMLInputElement>('checkbox', { name: l.gets(who, pass) });

test('a girdle goes without the polish, and one of its tiers gets it after all', () => {
  open();
  expect(screen.queryByText('Crown')).toBeNull();
  fireEvent.click(box('Girdle', 'Polish'));
  fireEvent.click(screen.getByText(l.tiers));
  expect(box('G1', 'Polish').checked).toBe(false);
  fireEvent.click(box('G2', 'Polish'));
  expect(kept.uses).toEqual([
    { group: 'girdle', tier: '', without: ['polish'] },
    { group: 'girdle', tier: 'G2', without: [] },
  ]);
  // One pass is left to everybody.
  expect(box('Girdle', 'Cut').disabled).toBe(true);
  // With the pass goes what was said of it.
  fireEvent.click(screen.getByLabelText(l.remove('Polish')));
  expect(kept.uses).toEqual([{ group: 'girdle', tier: 'G2', without: [] }]);
});

test('what the material is polished with is offered where the plan has another', () => {
  open();
  fireEvent.click(screen.getByText(l.use));
  expect(kept.passes[1]).toMatchObject({ lap: 'tin', lapItem: 'i1', compound: 'alumina' });
  expect(screen.queryByText(l.use)).toBeNull();
});

test('a polish that was the material’s changes with it, and a cutter’s own stays', () => {
  const usual = [{ ...begun.passes[1]!, lap: 'tin', compound: 'alumina' }];
  expect(repolished(usual, spinel, quartz)[0]).toMatchObject({ lap: 'plastic' });
  expect(repolished(begun.passes, spinel, quartz)).toBe(begun.passes);
});
