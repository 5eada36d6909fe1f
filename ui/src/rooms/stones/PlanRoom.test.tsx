import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Choices } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { choicesOf, diagramOf, machineOf, settingsOf, stoneOf, usual } from '../../testing/records';
import { Refused, serve } from '../../testing/server';
import { dopUpWords as t } from '../../words/dopUps';
import { fieldWords } from '../../words/fields';
import { runWords } from '../../words/runs';
import { workWords } from '../../words/works';
import { w } from '../../words/words';
import { PlanRoom } from './PlanRoom';

afterEach(cleanup);

const facts = { name: 'Spiral Arm', facets: 93, tiers: 9, gear: 96, outline: 'round' };
const diagram = {
  ...diagramOf({ revision: 'v1' }),
  facts: { ...facts, refractiveIndex: 1.9, lengthWidth: 1, heightWidth: 0.6, tableWidth: 0.5 },
};
const answers = {
  'GET /api/settings': () => settingsOf(),
  'GET /api/usual': () => usual,
  'GET /api/materials': () => ({ materials: [] }),
  'GET /api/diagrams/d1': () => diagram,
  'GET /api/diagrams/d1/proposal': () => choicesOf(),
  // What a plan comes to is not what these tests are about.
  'POST /api/assess': () => new Refused(422, { detail: 'nothing to assess' }),
};

const type = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const size = /Size \(mm\)/;
const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });

test('a plan is kept as it is seen: with a figure that cannot be read it is not', async () => {
  const kept: { name: string; choices: Choices }[] = [];
  serve({
    ...answers,
    'POST /api/stones': (body: never) => {
      kept.push(body);
      return stoneOf({ id: 'b' });
    },
  });
  const { router } = renderInApp(<PlanRoom />, '/stones/new?diagram=d1', '/stones/new');
  await screen.findByText(w.stones.planTitle);
  type(size, '5.5.');
  expect(screen.getByText(fieldWords.range('0.1', '500', false))).toBeTruthy();
  expect(button(w.stones.keep).disabled).toBe(true);
  type(size, '5,5');
  type(runWords.count, '30');
  expect(button(w.stones.keep).disabled).toBe(true);
  type(runWords.count, '1');
  type(w.stones.name, 'For the dome fund');
  fireEvent.click(button(w.stones.keep));
  await waitFor(() => expect(router.state.location.pathname).toBe('/stones/b'));
  expect(kept).toHaveLength(1);
  expect(kept[0]!.name).toBe('For the dome fund');
  // The size goes out as it was typed, for the sheet.
  expect(kept[0]!.choices.size).toMatchObject({ mm: 5.5, typed: '5,5' });
});

test('several stones are planned as a run, called after the diagram where they have no name', async () => {
  let asked: unknown;
  serve({
    ...answers,
    'POST /api/runs': (body: never) => {
      asked = body;
      return { id: 'r1' };
    },
  });
  const { router } = renderInApp(<PlanRoom />, '/stones/new?diagram=d1', '/stones/new');
  await screen.findByText(w.stones.planTitle);
  expect(screen.queryByLabelText(runWords.order)).toBeNull();
  type(runWords.count, '3');
  fireEvent.mouseDown(screen.getByLabelText(runWords.order));
  fireEvent.click(await screen.findByRole('option', { name: runWords.orders.stone! }));
  fireEvent.click(button(runWords.keep(3)));
  await waitFor(() => expect(router.state.location.pathname).toBe('/runs/r1'));
  expect(asked).toMatchObject({ name: 'Spiral Arm', order: 'stone', stones: 3, diagramId: 'd1' });
});

test('a solid is held by the faces that are taken, in their order, and dialled past worn teeth', async () => {
  const kept: Choices[] = [];
  const proposed = { dopUps: [24, 72, 48].map((index) => ({ tier: 'G1', index })) };
  serve({
    ...answers,
    'GET /api/diagrams/d1/dop-ups': () => proposed,
    'POST /api/stones': (body: { choices: Choices }) => {
      kept.push(body.choices);
      return stoneOf({ id: 'b' });
    },
  });
  renderInApp(<PlanRoom />, '/stones/new?diagram=d1', '/stones/new');
  await screen.findByText(w.stones.planTitle);
  fireEvent.click(screen.getByLabelText(t.several));
  expect(screen.getByText(t.none)).toBeTruthy();
  fireEvent.click(await screen.findByRole('button', { name: t.take(3) }));
  fireEvent.click(button(t.earlier(3)));
  fireEvent.click(button(t.remove(1)));
  fireEvent.mouseDown(screen.getByLabelText(t.from));
  fireEvent.click(await screen.findByRole('option', { name: t.froms.above }));
  type(t.skip, '13 97');
  expect(button(w.stones.keep).disabled).toBe(true);
  type(t.skip, '13 37');
  fireEvent.click(button(w.stones.keep));
  await waitFor(() => expect(kept).toHaveLength(1));
  expect(kept[0]).toMatchObject({
    dopUps: [
      { tier: 'G1', index: 48 },
      { tier: 'G1', index: 72 },
    ],
    cheats: { from: 'above', skip: [13, 37] },
  });
});

test('a plan that is refused says why and stays as it was typed', async () => {
  serve({
    ...answers,
    'POST /api/stones': () =>
      new Refused(422, {
        detail: 'This machine does not reach 96°.',
      }),
  });
  renderInApp(<PlanRoom />, '/stones/new?diagram=d1', '/stones/new');
  await screen.findByText(w.stones.planTitle);
  type(size, '7.25');
  fireEvent.click(button(w.stones.keep));
  expect(await screen.findByText('This machine does not reach 96°.')).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>(size).value).toBe('7.25');
  expect(button(w.stones.keep).disabled).toBe(false);
});

test('a recut is planned over the version of the stone that was seen, with what it is for', async () => {
  let asked: unknown;
  const finish = {
    ...{ roughCarats: 9, finishedCarats: 2.4, widthMM: 8, lengthMM: 8.1, heightMM: 5 },
    ...{
      started: '',
      finished: '',
      hours: null,
      notes: '',
      price: 0,
      currency: '',
      version: 1,
      saved: '',
    },
  };
  serve({
    ...answers,
    'GET /api/stones/a/line': () => stoneOf({ finish }),
    'POST /api/stones/a/recuts': (body: never) => {
      asked = body;
      return stoneOf();
    },
  });
  const { router } = renderInApp(<PlanRoom />, '/stones/new?diagram=d1&stone=a', '/stones/new');
  await screen.findByText(/2.40 ct/);
  type(workWords.why, 'the table is worn');
  type(size, '7,6');
  fireEvent.click(button(workWords.keepRecut));
  await waitFor(() => expect(router.state.location.pathname).toBe('/stones/a'));
  expect(asked).toMatchObject({ why: 'the table is worn', version: 5, choices: { gear: 96 } });
});

test('a plan whose machine is gone shows the one that it is reckoned for', async () => {
  const machines = [machineOf(), machineOf({ id: 'm2', name: 'Travelling wheel' })];
  serve({
    ...answers,
    'GET /api/settings': () => settingsOf({ machines, machine: 'm2' }),
    'GET /api/diagrams/d1/proposal': () => choicesOf({ machine: 'sold' }),
  });
  renderInApp(<PlanRoom />, '/stones/new?diagram=d1', '/stones/new');
  await screen.findByText(w.stones.planTitle);
  expect(screen.getByLabelText(w.stones.machine).textContent).toBe('Travelling wheel');
});
