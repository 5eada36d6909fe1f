import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import { renderInApp } from '../../testing/app';
import { pageOf } from '../../testing/kit';
import { serve } from '../../testing/server';
import { kitWords as k } from '../../words/kit';
import { KitField } from './KitField';

afterEach(cleanup);

let kept: { text: string; item: string };

function Form({ text, item }: { text: string; item: string }) {
  const [value, setValue] = useState({ text, item });
  const keep = (next: typeof kept) => {
    kept = next;
    setValue(next);
  };
  return (
    <KitField
      label="Lap"
      kind="lap"
      text={value.text}
      item={value.item}
      onChange={(text, item) => keep({ text, item })}
    />
  );
}

const shelf = [
  pageOf({ item: { id: 'tin', name: 'Tin' } }),
  pageOf({ item: { id: 'zinc', name: 'Zinc' } }),
  pageOf({ gone: true, item: { id: 'old', name: 'Old copper' } }),
  pageOf({ item: { id: 'wax', kind: 'adhesive', name: 'Wax', lap: null } }),
];

function open(text: string, item = '') {
  serve({ 'GET /api/kit': () => ({ items: shelf }) });
  renderInApp(<Form text={text} item={item} />);
  return screen.getByLabelText<HTMLInputElement>('Lap');
}

const offered = () => screen.queryAllByRole('option').map((o) => o.querySelector('p')!.textContent);

test('the laps of the shelf are offered, those that are gone and other things are not', async () => {
  const field = open('Tin', 'tin');
  fireEvent.focus(field);
  fireEvent.mouseDown(field);
  await waitFor(() => expect(offered()).toEqual(['Tin', 'Zinc']));
  fireEvent.change(field, { target: { value: 'zi' } });
  expect(kept).toEqual({ text: 'zi', item: '' });
  expect(offered()).toEqual(['Zinc']);
  fireEvent.click(screen.getByText('Zinc'));
  expect(kept).toEqual({ text: 'Zinc', item: 'zinc' });
});

test('words that name nothing on the shelf stay words, and a whole name is the thing', async () => {
  const field = open('');
  fireEvent.mouseDown(field);
  await screen.findByText('Zinc');
  fireEvent.change(field, { target: { value: 'leather' } });
  expect(kept).toEqual({ text: 'leather', item: '' });
  fireEvent.change(field, { target: { value: 'Tin' } });
  expect(kept).toEqual({ text: 'Tin', item: 'tin' });
});

test('a thing that is gone is still called by its name, and that it is gone is said', async () => {
  const field = open('Old copper', 'old');
  expect(await screen.findByText(k.pick.gone)).toBeTruthy();
  expect(field.value).toBe('Old copper');
});
