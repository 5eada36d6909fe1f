import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import type { Material } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { serve } from '../../testing/server';
import { useSelectedTier } from '../stone/useSelectedTier';
import { MaterialField } from './MaterialField';
import { NumberField } from './NumberField';
import { FormFields, useReadable } from './unreadable';

afterEach(cleanup);

test('a material is chosen by name and comes with its figures', async () => {
  const table = ['Quartz', 'Peridot', 'Spinel'].map((name, i) => ({ name, sg: 2.65 + i }));
  serve({ 'GET /api/materials': () => ({ materials: table }) });
  const chosen: (Material | undefined)[] = [];
  renderInApp(
    <MaterialField
      label="Material"
      value=""
      none="any"
      without={['Peridot']}
      onChange={(_, m) => chosen.push(m)}
    />,
  );
  fireEvent.mouseDown(await screen.findByRole('combobox'));
  await screen.findByText('Quartz');
  const options = within(screen.getByRole('listbox')).getAllByRole('option');
  expect(options.map((o) => o.textContent)).toEqual(['any', 'Quartz', 'Spinel']);
  fireEvent.click(options[2]!);
  expect(chosen).toEqual([table[2]]);
});

function Form({ second }: { second: boolean }) {
  const { readable, report } = useReadable();
  return (
    <FormFields value={report}>
      <NumberField label="Width" min={1} max={20} value={8} onChange={() => {}} />
      {second && <NumberField label="Length" min={1} max={20} value={9} onChange={() => {}} />}
      <button disabled={!readable}>save</button>
    </FormFields>
  );
}

test('a form is saved only while every field on it can be read', () => {
  function Both() {
    const [second, setSecond] = useState(true);
    return (
      <>
        <Form second={second} />
        <button onClick={() => setSecond(false)}>round</button>
      </>
    );
  }
  renderInApp(<Both />);
  const save = screen.getByRole<HTMLButtonElement>('button', { name: 'save' });
  const type = (label: string, value: string) =>
    fireEvent.change(screen.getByLabelText(label), { target: { value } });
  expect(save.disabled).toBe(false);
  type('Width', 'eight');
  type('Length', '400');
  expect(save.disabled).toBe(true);
  type('Width', '8.5');
  expect(save.disabled).toBe(true);
  // A field that is gone holds nothing up.
  fireEvent.click(screen.getByText('round'));
  expect(save.disabled).toBe(false);
});

test('the selected tier stands in the address by its key and keeps what else stands there', () => {
  const selects = new Set<unknown>();
  function Tiers() {
    const [selected, select] = useSelectedTier();
    selects.add(select);
    return ['t1', 't2', null].map((key) => (
      <button key={key} onClick={() => select(key)} aria-pressed={key === selected}>
        {key ?? 'none'}
      </button>
    ));
  }
  const { router } = renderInApp(<Tiers />, '/diagrams/d1?edit=1&tier=t1');
  expect(screen.getByText('t1').getAttribute('aria-pressed')).toBe('true');
  fireEvent.click(screen.getByText('t2'));
  expect(router.state.location.search).toBe('?edit=1&tier=t2');
  fireEvent.click(screen.getByText('none'));
  expect(router.state.location.search).toBe('?edit=1');
  // Back leaves the diagram; it does not walk through the tiers.
  expect(router.state.historyAction).toBe('REPLACE');
  expect(selects.size).toBe(1);
});
