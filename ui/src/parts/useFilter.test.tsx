import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { renderInApp } from '../testing/app';
import { useFilter } from './useFilter';

afterEach(cleanup);

const none = { text: '', state: '' };

function List() {
  const [filter, change] = useFilter(none);
  return (
    <>
      <input value={filter.text} onChange={(e) => change({ text: e.target.value })} />
      <button onClick={() => change({ state: 'cutting' })}>cutting</button>
      <button onClick={() => change(none)}>clear</button>
      <p>{JSON.stringify(filter)}</p>
    </>
  );
}

test('a filter begins with what the address remembers, and nothing else that stands there', () => {
  renderInApp(<List />, '/stones?text=grey&from=mail');
  expect(screen.getByText('{"text":"grey","state":""}')).toBeTruthy();
});

test('what is typed stands in the address, and empty fields do not', () => {
  const { router } = renderInApp(<List />, '/stones?text=grey');
  const field = screen.getByRole<HTMLInputElement>('textbox');
  for (const text of ['grey s', 'grey sp', 'grey spi']) {
    fireEvent.change(field, { target: { value: text } });
    expect(field.value).toBe(text);
  }
  fireEvent.click(screen.getByText('cutting'));
  expect(router.state.location.search).toBe('?text=grey+spi&state=cutting');
  // Back leaves the list; it does not go letter by letter.
  expect(router.state.historyAction).toBe('REPLACE');
  fireEvent.click(screen.getByText('clear'));
  expect(router.state.location.search).toBe('');
  expect(field.value).toBe('');
});
