import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { w } from '../words/words';
import { KeysProvider, useKeyHelp, useKeys } from './keys';

const run = { done: vi.fn(), note: vi.fn(), step: vi.fn(), inner: vi.fn() };
beforeEach(() => Object.values(run).forEach((f) => f.mockClear()));
afterEach(() => {
  cleanup();
  localStorage.clear();
});

function Screen({ inner = false }: { inner?: boolean }) {
  useKeys([
    { keys: ['Enter', ' '], label: 'Done', run: run.done },
    { keys: ['n'], label: 'Note', run: run.note },
    { keys: ['ArrowRight'], label: 'Step', run: run.step, repeats: true },
  ]);
  const help = useKeyHelp();
  return (
    <>
      <input aria-label="text" />
      <button onClick={help}>help</button>
      <div role="dialog">
        <span data-testid="in dialog" />
      </div>
      {inner && <Inner />}
    </>
  );
}

function Inner() {
  useKeys([{ keys: ['n'], label: 'Inner', run: run.inner }]);
  return null;
}

const show = (inner = false) =>
  render(
    <KeysProvider>
      <Screen inner={inner} />
    </KeysProvider>,
  );
const press = (key: string, on: Element = document.body, more = {}) =>
  fireEvent.keyDown(on, { key, ...more });

test('a held key acts once, but where it walks it goes on', () => {
  show();
  press('Enter');
  for (let i = 0; i < 5; i++) press('Enter', document.body, { repeat: true });
  for (let i = 0; i < 3; i++) press('ArrowRight', document.body, { repeat: true });
  expect(run.done).toHaveBeenCalledTimes(1);
  expect(run.step).toHaveBeenCalledTimes(3);
});

test('keys belong to the field, the dialog or the button that has the focus', () => {
  show();
  press('n', screen.getByLabelText('text'));
  press('n', screen.getByTestId('in dialog'));
  press('Enter', screen.getByText('help'));
  expect([run.note, run.done].map((f) => f.mock.calls.length)).toEqual([0, 0]);
  press('n', screen.getByText('help'));
  expect(run.note).toHaveBeenCalledTimes(1);
});

test('what opened last has the key', () => {
  const { rerender } = show();
  const showInner = (inner: boolean) =>
    rerender(
      <KeysProvider>
        <Screen inner={inner} />
      </KeysProvider>,
    );
  showInner(true);
  press('n');
  showInner(false);
  press('n');
  expect([run.inner, run.note].map((f) => f.mock.calls.length)).toEqual([1, 1]);
});

test('keys of a single character can be switched off, and stay off after a reload', () => {
  show();
  press('?');
  fireEvent.click(screen.getByRole('switch', { name: w.keys.letters }));
  fireEvent.click(screen.getByText(w.common.close));
  press('n');
  press('?');
  expect(run.note).not.toHaveBeenCalled();
  expect(screen.queryByText(w.common.keys)).toBeNull();
  press('Enter');
  expect(run.done).toHaveBeenCalledTimes(1);
  cleanup();
  show();
  press('n');
  expect(run.note).not.toHaveBeenCalled();
  fireEvent.click(screen.getByText('help'));
  fireEvent.click(screen.getByRole('switch', { name: w.keys.letters }));
  fireEvent.click(screen.getByText(w.common.close));
  press('n');
  expect(run.note).toHaveBeenCalledTimes(1);
});
