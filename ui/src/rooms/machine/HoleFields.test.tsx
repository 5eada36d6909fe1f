import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { renderInApp } from '../../testing/app';
import { machineOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { machineWords as m } from '../../words/machine';
import { MachineFields } from './MachineFields';

afterEach(cleanup);

test('a machine with holes asks for pegs and heights, and shows what each hole sets', async () => {
  serve({ 'POST /api/holes': () => ({ holes: [{ no: 2, height: 70, peg: 100, angle: 45.57 }] }) });
  const change = vi.fn();
  const machine = machineOf({ setting: 'holes', pegs: [100], holes: [60, 70], heightStep: 0 });
  renderInApp(<MachineFields machine={machine} onChange={change} />);
  expect(await screen.findByText('45.57°')).toBeTruthy();
  // What only a protractor or a dial has is not asked.
  for (const label of [m.step, m.zero, m.heightStep, m.heightSense])
    expect(screen.queryByLabelText(label)).toBeNull();
  fireEvent.change(screen.getByLabelText(m.pegs), { target: { value: '100 120' } });
  expect(change).toHaveBeenCalledExactlyOnceWith({ pegs: [100, 120] });
});
