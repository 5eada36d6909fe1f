import { cleanup, fireEvent, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import { renderInApp } from '../../testing/app';
import { machineWords } from '../../words/machine';
import { FormFields, useReadable } from '../fields/unreadable';
import { GearsField } from './GearsField';

afterEach(cleanup);

function Form({ changes }: { changes: number[][] }) {
  const { readable, report } = useReadable();
  const [gears, setGears] = useState([64, 96]);
  const take = (next: number[]) => {
    changes.push(next);
    setGears(next);
  };
  return (
    <FormFields value={report}>
      <GearsField value={gears} onChange={take} />
      <button onClick={() => setGears([72, 96, 120])}>from outside</button>
      <button disabled={!readable}>save</button>
    </FormFields>
  );
}

test('gears are read however they are set apart, and what is no gear holds the form up', () => {
  const changes: number[][] = [];
  renderInApp(<Form changes={changes} />);
  const field = screen.getByRole<HTMLInputElement>('textbox');
  const save = screen.getByRole<HTMLButtonElement>('button', { name: 'save' });
  expect(field.value).toBe('64 96');
  const type = (value: string) => fireEvent.change(field, { target: { value } });
  type('64, 72;96');
  expect(changes).toEqual([[64, 72, 96]]);
  for (const bad of ['64 seventy', '', '64 0', '72.5', '361', '-96']) {
    type(bad);
    expect(save.disabled).toBe(true);
    expect(screen.getByText(machineWords.gearsBad(1, 360))).toBeTruthy();
  }
  expect(changes).toHaveLength(1);
  // What was typed stays as it was typed.
  expect(field.value).toBe('-96');
  type(' 80 ');
  expect(save.disabled).toBe(false);
  expect(changes.at(-1)).toEqual([80]);
  expect(field.value).toBe(' 80 ');
  // What comes from outside, from the server or another screen, takes its place, also over what
  // could not be read.
  for (const text of ['80', '80 x']) {
    type(text);
    fireEvent.click(screen.getByText('from outside'));
    expect(field.value).toBe('72 96 120');
    expect(save.disabled).toBe(false);
    type('80');
  }
});
