import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { renderInApp } from '../../testing/app';
import { machineWords } from '../../words/machine';
import { FormFields, useReadable } from '../fields/unreadable';
import { GearsField } from './GearsField';

afterEach(cleanup);

function Form({ told }: { told: number[][] }) {
  const { readable, report } = useReadable();
  return (
    <FormFields value={report}>
      <GearsField value={[64, 96]} onChange={(g) => told.push(g)} />
      <button disabled={!readable}>save</button>
    </FormFields>
  );
}

test('gears are read however they are set apart, and what is no gear holds the form up', () => {
  const told: number[][] = [];
  renderInApp(<Form told={told} />);
  const field = screen.getByRole<HTMLInputElement>('textbox');
  const save = screen.getByRole<HTMLButtonElement>('button');
  expect(field.value).toBe('64 96');
  const type = (value: string) => fireEvent.change(field, { target: { value } });
  type('64, 72;96');
  expect(told).toEqual([[64, 72, 96]]);
  for (const bad of ['64 seventy', '', '64 0', '72.5', '-96']) {
    type(bad);
    expect(save.disabled).toBe(true);
    expect(screen.getByText(machineWords.gearsBad)).toBeTruthy();
  }
  expect(told).toHaveLength(1);
  // What was typed stays as it was typed.
  expect(field.value).toBe('-96');
  type(' 80 ');
  expect(save.disabled).toBe(false);
  expect(told.at(-1)).toEqual([80]);
});
