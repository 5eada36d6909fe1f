import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { renderInApp } from '../../testing/app';
import { serve } from '../../testing/server';
import { machineWords } from '../../words/machine';
import { readingsOf, RepeatabilityTest } from './RepeatabilityTest';

afterEach(cleanup);

const t = machineWords.repeatabilityTest;

test('readings are taken apart however they are typed', () => {
  expect(readingsOf('42,1° 41.9; 42')).toEqual([42.1, 41.9, 42]);
});

test('what was found is taken over, and too few readings are not', async () => {
  const read = vi.fn(() => ({ scatter: 0.2004 }));
  serve({ 'POST /api/scatter': read });
  const take = vi.fn();
  renderInApp(<RepeatabilityTest onTake={take} />);
  fireEvent.click(screen.getByText(t.open));
  fireEvent.change(screen.getByLabelText(t.readings), { target: { value: '42 42.2' } });
  expect(screen.getByText(t.few)).toBeTruthy();
  fireEvent.change(screen.getByLabelText(t.readings), { target: { value: '42 42.2 41.8' } });
  fireEvent.click(await screen.findByText(t.take('0.2')));
  expect(read).toHaveBeenCalledExactlyOnceWith({ readings: [42, 42.2, 41.8] }, '/api/scatter');
  expect(take).toHaveBeenCalledWith(0.2);
});
