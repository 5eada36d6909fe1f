import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import { Themed } from '../testing/themed';
import { ChoiceList } from './ChoiceList';

afterEach(cleanup);

const laps = ['600', '1200', '3000'];

function Laps() {
  const [chosen, setChosen] = useState('600');
  return (
    <Themed>
      <ChoiceList
        label="Laps"
        list={laps}
        keyOf={(l) => l}
        isChosen={(l) => l === chosen}
        onChoose={setChosen}
        aside={(l) => <button>delete {l}</button>}
      >
        {(l) => l}
      </ChoiceList>
    </Themed>
  );
}

test('arrow keys go from row to row, stop at the ends and choose nothing', () => {
  render(<Laps />);
  const rows = laps.map((name) => screen.getByRole('button', { name }));
  rows[0]!.focus();
  const press = (key: string) => fireEvent.keyDown(document.activeElement!, { key });
  press('ArrowUp');
  expect(document.activeElement).toBe(rows[0]);
  press('ArrowDown');
  press('ArrowDown');
  press('ArrowDown');
  expect(document.activeElement).toBe(rows[2]);
  expect(rows.map((r) => r.ariaPressed ?? r.getAttribute('aria-pressed'))).toEqual([
    'true',
    'false',
    'false',
  ]);
});

test('a row is chosen by pressing it, not by what stands at its end', () => {
  render(<Laps />);
  const pressed = () => screen.getAllByRole('button', { pressed: true }).map((r) => r.textContent);
  fireEvent.click(screen.getByRole('button', { name: 'delete 3000' }));
  expect(pressed()).toEqual(['600']);
  fireEvent.click(screen.getByRole('button', { name: '1200' }));
  expect(pressed()).toEqual(['1200']);
});
