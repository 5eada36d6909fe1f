import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { renderInApp } from '../../testing/app';
import { machineWords } from '../../words/machine';
import { readingsOf, RepeatabilityTest, scatter } from './RepeatabilityTest';

afterEach(cleanup);

const t = machineWords.repeatabilityTest;

test('readings are taken apart however they are typed, and their scatter is the standard one', () => {
  expect(readingsOf('42,1° 41.9; 42')).toEqual([42.1, 41.9, 42]);
  expect(scatter([41.9, 42, 42.1])).toBe(0.1);
});

test('what was found is taken over, and too few readings are not', () => {
  const take = vi.fn();
  renderInApp(<RepeatabilityTest onTake={take} />);
  fireEvent.click(screen.getByText(t.open));
  fireEvent.change(screen.getByLabelText(t.readings), { target: { value: '42 42.2' } });
  expect(screen.getByText(t.few)).toBeTruthy();
  fireEvent.change(screen.getByLabelText(t.readings), { target: { value: '42 42.2 41.8' } });
  fireEvent.click(screen.getByText(t.take('0.2')));
  expect(take).toHaveBeenCalledWith(0.2);
});
