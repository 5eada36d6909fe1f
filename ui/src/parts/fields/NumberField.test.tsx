import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { NumberField } from './NumberField';
import { FormFields, useReadable } from './unreadable';

afterEach(cleanup);

const heard = vi.fn();
beforeEach(() => heard.mockClear());

function Form({ first = 8, whole }: { first?: number; whole?: boolean }) {
  const [value, setValue] = useState(first);
  const { readable, report } = useReadable();
  return (
    <FormFields value={report}>
      <NumberField
        label="Width"
        min={0.5}
        max={500}
        whole={whole}
        value={value}
        onChange={(v, text) => {
          heard(v, text);
          setValue(v);
        }}
      />
      <button disabled={!readable}>Save</button>
      <button onClick={() => setValue(6)}>from outside</button>
    </FormFields>
  );
}

const field = () => screen.getByLabelText<HTMLInputElement>('Width');
const type = (text: string) => fireEvent.change(field(), { target: { value: text } });
const canSave = () => !screen.getByText<HTMLButtonElement>('Save').disabled;

describe.each([
  ['en-GB', '8.25'],
  ['de-DE', '8,25'],
])('in %s', (language, written) => {
  beforeEach(() => void vi.spyOn(navigator, 'language', 'get').mockReturnValue(language));

  test('a figure is shown as it is written here, and read with a point or a comma', () => {
    render(<Form first={8.25} />);
    expect(field().value).toBe(written);
    for (const text of ['9.5', '9,5']) {
      type(text);
      expect(heard).toHaveBeenLastCalledWith(9.5, text);
      expect(field().value).toBe(text);
    }
    fireEvent.blur(field());
    expect(field().value).toBe('9.5'.replace('.', written.charAt(1)));
  });
});

test('what cannot be read stays, is marked, and keeps the form from being saved', () => {
  render(<Form />);
  for (const text of ['', 'wide', '0.4', '501']) {
    type(text);
    fireEvent.blur(field());
    expect(field().value).toBe(text);
    expect(field().getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText('Type 0.5 to 500.')).toBeTruthy();
    expect(canSave()).toBe(false);
  }
  expect(heard).not.toHaveBeenCalled();
  type('9');
  expect(canSave()).toBe(true);
});

test('a value that changes from outside takes the place of what was typed, bad or good', () => {
  render(<Form />);
  for (const text of ['9.50', 'nonsense']) {
    type(text);
    type('7');
    type(text);
    fireEvent.click(screen.getByText('from outside'));
    expect(field().value).toBe('6');
    expect(canSave()).toBe(true);
  }
});

test('whole numbers are asked for where only these count', () => {
  render(<Form whole />);
  type('8.5');
  expect(screen.getByText('Type a whole number from 0.5 to 500.')).toBeTruthy();
  type('9');
  expect(heard).toHaveBeenCalledTimes(1);
});

test('an optional figure can be empty, and a field that is gone keeps nothing from being saved', () => {
  const set = vi.fn();
  function Limits({ shown }: { shown: boolean }) {
    const { readable, report } = useReadable();
    return (
      <FormFields value={report}>
        {shown && (
          <NumberField
            label="Width"
            min={0}
            max={9}
            optional="no limit"
            value={undefined}
            onChange={set}
          />
        )}
        <button disabled={!readable}>Save</button>
      </FormFields>
    );
  }
  const { rerender } = render(<Limits shown />);
  expect(field().placeholder).toBe('no limit');
  type('x');
  expect(canSave()).toBe(false);
  type('');
  expect(set).toHaveBeenLastCalledWith(undefined, '');
  type('x');
  rerender(<Limits shown={false} />);
  expect(canSave()).toBe(true);
});
