import { act, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { NoticeProvider, useNotice } from './notice';

function Deleter({ undo }: { undo: (name: string) => void }) {
  const notice = useNotice();
  return ['Meridian', 'Ecliptic'].map((name) => (
    <button
      key={name}
      onClick={() =>
        notice({ text: `${name} was deleted.`, action: { label: 'Undo', run: () => undo(name) } })
      }
    >
      {name}
    </button>
  ));
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

test('a notice that follows another stays its own time, and takes back its own', () => {
  const undo = vi.fn();
  render(
    <NoticeProvider>
      <Deleter undo={undo} />
    </NoticeProvider>,
  );
  fireEvent.click(screen.getByText('Meridian'));
  act(() => void vi.advanceTimersByTime(11_000));
  fireEvent.click(screen.getByText('Ecliptic'));
  act(() => void vi.advanceTimersByTime(11_000));
  expect(screen.queryByText('Meridian was deleted.')).toBeNull();
  expect(screen.getByRole('alert').textContent).toContain('Ecliptic was deleted.');
  fireEvent.click(screen.getByText('Undo'));
  expect(undo.mock.calls).toEqual([['Ecliptic']]);
  expect(screen.queryByRole('alert')).toBeNull();
});
