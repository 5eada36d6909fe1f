import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { NumbersField } from './NumbersField';

afterEach(cleanup);

test('a list of lengths is read as it is typed, and what cannot be read changes nothing', () => {
  const change = vi.fn();
  render(
    <NumbersField
      {...{ label: 'Holes', value: [60], min: 0, max: 1000, most: 3 }}
      {...{ help: 'as in 60 65', bad: 'not lengths', onChange: change }}
    />,
  );
  const field = screen.getByLabelText('Holes');
  fireEvent.change(field, { target: { value: '60 65.5; 71' } });
  expect(change).toHaveBeenLastCalledWith([60, 65.5, 71]);
  for (const text of ['60 low', '60 -1', '1 2 3 4']) {
    fireEvent.change(field, { target: { value: text } });
    expect(screen.getByText('not lengths')).toBeTruthy();
  }
  expect(change).toHaveBeenCalledTimes(1);
});
