import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Settings } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { habitsOf, machineOf, settingsOf } from '../../testing/records';
import { serve, stale } from '../../testing/server';
import { machineWords as m } from '../../words/machine';
import { w } from '../../words/words';
import { MachineRoom } from './MachineRoom';

afterEach(cleanup);

/** Opens the room over settings that a server keeps. */
async function open(start: Settings = settingsOf()) {
  const server = { settings: start, saved: [] as Settings[] };
  serve({
    'GET /api/settings': () => server.settings,
    'PUT /api/settings': (sent: Settings) => {
      if (sent.version !== server.settings.version) return stale;
      server.saved.push(sent);
      server.settings = { ...sent, version: sent.version + 1 };
      return server.settings;
    },
    'GET /api/materials': () => ({ materials: [] }),
    'GET /api/usual': () => ({}),
  });
  const shown = renderInApp(<MachineRoom />);
  await screen.findByRole('heading', { name: w.common.machine });
  return { ...shown, server };
}

const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });
const save = () => fireEvent.keyDown(document.body, { key: 's', ctrlKey: true });

test('what is changed is said to be unsaved until it is saved, by the key as by the button', async () => {
  const { server } = await open();
  expect(screen.queryByText(m.unsaved)).toBeNull();
  type(m.name, 'The old one');
  expect(screen.getByText(m.unsaved)).toBeTruthy();
  save();
  expect(await screen.findByText(m.saved)).toBeTruthy();
  expect(server.saved.map((s) => s.machines[0]!.name)).toEqual(['The old one']);
  expect(server.saved[0]!.answered).toBe(true);
  await waitFor(() => expect(screen.queryByText(m.unsaved)).toBeNull());
  // The next change is saved over the version that the first one made.
  type(m.name, 'The older one');
  fireEvent.click(button(m.save));
  await waitFor(() => expect(server.saved).toHaveLength(2));
  expect(server.saved[1]!.version).toBe(4);
});

test('with a figure that cannot be read neither key nor button saves', async () => {
  const { server } = await open();
  type(m.low, '-40');
  expect(button(m.save).disabled).toBe(true);
  save();
  type(m.low, '-4');
  type(m.gears, '96 eighty');
  save();
  expect(button(m.save).disabled).toBe(true);
  type(m.gears, '80 96');
  save();
  await waitFor(() => expect(server.saved).toHaveLength(1));
  expect(server.saved[0]!.machines[0]).toMatchObject({ angleLow: -4, gears: [80, 96] });
});

test('another machine begins as a copy with an ID of its own, and the default stays', async () => {
  const { server } = await open();
  expect(button(m.remove('The wheel by the window')).disabled).toBe(true);
  fireEvent.click(button(m.addMachine));
  expect(field(m.name).value).toBe(m.copyOf('The wheel by the window'));
  type(m.name, 'Travelling wheel');
  type(m.gears, '64');
  fireEvent.click(button(m.addMachine));
  save();
  await waitFor(() => expect(server.saved).toHaveLength(1));
  const { machines, machine } = server.saved[0]!;
  expect(new Set(machines.map((k) => k.id)).size).toBe(3);
  expect(machine).toBe('m1');
  expect(machines.map((k) => k.gears)).toEqual([[64, 96], [64], [64]]);
});

test('the default can be changed, and only what is not the default is removed', async () => {
  const { server } = await open(
    settingsOf({ machines: [machineOf(), machineOf({ id: 'm2', name: 'Travelling wheel' })] }),
  );
  const list = screen.getByRole('list', { name: m.tabs.machines });
  fireEvent.click(within(list).getByText('Travelling wheel'));
  expect(button(m.remove('Travelling wheel')).disabled).toBe(false);
  fireEvent.click(button(m.makeDefault));
  expect(button(m.remove('Travelling wheel')).disabled).toBe(true);
  fireEvent.click(within(list).getByText('The wheel by the window'));
  fireEvent.click(button(m.remove('The wheel by the window')));
  save();
  await waitFor(() => expect(server.saved).toHaveLength(1));
  expect(server.saved[0]).toMatchObject({ machine: 'm2', machines: [{ id: 'm2' }] });
});

test('settings that were changed elsewhere are shown beside these, and one is chosen', async () => {
  const { server } = await open();
  server.settings = settingsOf({
    version: 9,
    machines: [machineOf({ gears: [120] })],
    habits: [habitsOf({ name: 'Weekends' })],
  });
  type(m.gears, '80');
  save();
  const dialog = await screen.findByRole('dialog');
  expect(within(dialog).getByText(/wheel by the window: 80 ·/)).toBeTruthy();
  expect(within(dialog).getByText(/wheel by the window: 120 ·/)).toBeTruthy();
  expect(within(dialog).getByText('Weekends: Cut · 600')).toBeTruthy();
  expect(server.saved).toEqual([]);
  fireEvent.click(within(dialog).getByText(w.conflict.theirs));
  await waitFor(() => expect(field(m.gears).value).toBe('120'));
  // From there on their version is the one that is changed.
  type(m.gears, '120 64');
  save();
  await waitFor(() => expect(server.saved).toHaveLength(1));
  expect(server.saved[0]).toMatchObject({ version: 9, habits: [{ name: 'Weekends' }] });
});
