import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { AnglesReport } from '../../api/client';
import type { AnglesBody } from '../../api/solving';
import { renderInApp } from '../../testing/app';
import { diagramOf, draftOf, settingsOf, tierOf, usual } from '../../testing/records';
import { Refused, serve } from '../../testing/server';
import { anglesWords as a } from '../../words/angles';
import { AnglesRoom } from './AnglesRoom';

afterEach(cleanup);

const draft = draftOf({ name: 'Lantern', refractiveIndex: '1.54', tiers: [tierOf()] });

const moved = (body: AnglesBody): AnglesReport => {
  const stone = { criticalAngle: 40.5, height: 5, crown: 1.5, pavilion: 3.3, carats: null };
  const cost = { gap: 12, residual: 1 };
  return {
    draft: { ...body.draft, tiers: [tierOf({ angle: body.target ? '40' : '41.1' })] },
    exact: body.draft,
    pavilionFactor: 1,
    crownFactor: 1,
    margin: body.target?.margin ?? 2.37,
    tiers: [],
    before: stone,
    after: stone,
    warnings: [],
    meets: [],
    nearest: cost,
    best: cost,
    ended: 'complete',
  } as AnglesReport;
};

/** Opens the room at a server that moves angles, or refuses to. */
async function open(answer: (body: AnglesBody) => unknown = moved) {
  const asked: AnglesBody[] = [];
  const kept: unknown[] = [];
  serve({
    'GET /api/diagrams/d1': () => diagramOf({ draft }),
    'GET /api/settings': () => settingsOf(),
    'GET /api/usual': () => usual,
    'GET /api/materials': () => ({
      materials: [{ name: 'Spinel', refractiveIndex: { low: 1.712, high: 1.72 } }],
    }),
    'POST /api/solve': () => new Refused(422, { detail: 'not drawn here' }),
    'POST /api/angles': (body: AnglesBody) => {
      asked.push(body);
      return answer(body);
    },
    'POST /api/diagrams/d1/variant': (body: never) => {
      kept.push(body);
      return diagramOf({ id: 'd2' });
    },
  });
  const shown = renderInApp(<AnglesRoom />, '/diagrams/d1/angles', '/diagrams/:id/angles');
  await screen.findByLabelText(a.index);
  return { ...shown, asked, kept, latest: () => asked.at(-1)! };
}

const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const keep = () => screen.getByText<HTMLButtonElement>(a.keep);
const choose = async (label: string, option: string) => {
  fireEvent.mouseDown(screen.getAllByLabelText(label)[0]!);
  fireEvent.click(await screen.findByRole('option', { name: option }));
};

test('at first the angles stay, and are rounded to the step of the machine', async () => {
  const { latest, kept } = await open();
  await waitFor(() => expect(keep().disabled).toBe(false));
  expect(latest()).toMatchObject({ target: null, step: 0.5, search: true, width: 8 });
  fireEvent.click(keep());
  await waitFor(() => expect(kept).toHaveLength(1));
  expect(kept[0]).toMatchObject({ draft: { name: a.rounded('Lantern', 0.5) } });
});

test('a material brings its index, and a variant for it is named after that', async () => {
  const { latest, kept } = await open();
  await choose(a.material, 'Spinel');
  await waitFor(() => expect(latest().material).toBe('Spinel'));
  expect(latest().target).toMatchObject({ refractiveIndex: 1.712, margin: null, crownFactor: 1 });
  await waitFor(() => expect(keep().disabled).toBe(false));
  fireEvent.click(keep());
  await waitFor(() => expect(kept).toHaveLength(1));
  expect(kept[0]).toMatchObject({
    draft: { name: a.variant('Lantern', '1.712'), tiers: [{ angle: '40' }] },
  });
});

test('a margin that is chosen begins with the one that there is', async () => {
  const { latest } = await open();
  await waitFor(() => expect(keep().disabled).toBe(false));
  await choose(a.margin, a.chosenMargin);
  await waitFor(() => expect(latest().target?.margin).toBe(2.4));
  await choose(a.margin, a.ownMargin);
  await waitFor(() => expect(keep().disabled).toBe(false));
});

test('nothing is kept of an index that cannot be read, or of angles that cannot be', async () => {
  await open((body) =>
    body.target ? new Refused(422, { detail: 'Choose a smaller margin.' }) : moved(body),
  );
  await waitFor(() => expect(keep().disabled).toBe(false));
  fireEvent.change(field(a.index), { target: { value: '5' } });
  expect(keep().disabled).toBe(true);
  fireEvent.change(field(a.index), { target: { value: '1.01' } });
  expect(await screen.findByText('Choose a smaller margin.')).toBeTruthy();
  expect(keep().disabled).toBe(true);
  fireEvent.change(field(a.index), { target: { value: '1.54' } });
  await waitFor(() => expect(keep().disabled).toBe(false));
});
