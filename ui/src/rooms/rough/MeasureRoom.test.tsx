import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Piece, PieceForm, Survey } from '../../api/rough';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { settingsOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { measureWords as k } from '../../words/measure';
import { MeasureRoom } from './MeasureRoom';

afterEach(cleanup);

const piece = {
  id: 'p',
  number: 4,
  weighed: '12',
  unit: 'ct',
  carats: 12,
  version: 3,
  survey: null,
  rough: { name: 'block', material: 'Peridot', note: '', trims: [], flaws: [], axis: null },
} as unknown as Piece;

test('touches go where they tell most, and the solid is taken over what was read', async () => {
  const asked: Survey[] = [];
  const saved: PieceForm[] = [];
  serve({
    'GET /api/rough/p': () => piece,
    'GET /api/settings': () => settingsOf(),
    'POST /api/rough/survey': ({ survey }: { survey: Survey }) => {
      asked.push(survey);
      const bounded = survey.touches.length > 0;
      return {
        solid: bounded ? cube : null,
        points: bounded ? [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1] : [],
        carats: 15,
        volume: 900,
        took: survey.touches.map(() => 4.2),
        most: bounded ? 1.5 : null,
        extra: bounded ? 3 : null,
        nextAngle: 90,
        nextIndex: 24,
        ahead: [{ angle: 90, index: 48 }],
      };
    },
    'PUT /api/rough/p': (form: PieceForm) => {
      saved.push(form);
      return piece;
    },
  });
  renderInApp(<MeasureRoom />, '/rough/p/measure', '/rough/:id/measure');
  await screen.findByText(k.notYet(0));
  await screen.findByLabelText(k.next.height);
  const type = (label: string, text: string) =>
    fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
  // Before the dial is known no touch counts.
  type(k.next.height, '14.2');
  expect(screen.getByText<HTMLButtonElement>(k.next.add).disabled).toBe(true);
  type(k.dial.height(0), '92');
  type(k.dial.height(90), '5');
  fireEvent.click(screen.getByText(k.next.add));
  await screen.findByText('took 4.2 mm³');
  expect(asked.at(-1)).toMatchObject({
    known: [
      { angle: 0, distance: 0, height: 92 },
      { angle: 90, distance: 3, height: 5 },
    ],
    touches: [{ angle: 90, index: 24, height: 14.2 }],
  });
  // A wider dop moves its rim.
  type(k.dial.dop, '8');
  await waitFor(() => expect(asked.at(-1)!.known[1]!.distance).toBeCloseTo(4));
  await screen.findByText('3.00 ct');
  fireEvent.click(screen.getByText(k.take));
  await waitFor(() => expect(saved).toHaveLength(1));
  expect(saved[0]).toMatchObject({
    version: 3,
    survey: { touches: [{ height: 14.2 }] },
    rough: { solid: { kind: 'hull' } },
  });
});
