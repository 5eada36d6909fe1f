import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { FaceAsked, Fitting, locate, PieceForm } from '../../api/rough';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { usual } from '../../testing/records';
import { candidate, piece } from '../../testing/rough';
import { serve, stale } from '../../testing/server';
import { lookWords } from '../../words/look';
import { roughWords as r } from '../../words/rough';
import { w } from '../../words/words';
import { PieceRoom } from './PieceRoom';

afterEach(cleanup);

type Sightings = Parameters<NonNullable<typeof locate.mutationFn>>[0];

/** The room on a server that keeps one piece. */
async function open(kept = piece()) {
  const now = { kept };
  const asked: Fitting[] = [];
  const put: PieceForm[] = [];
  const looks: FaceAsked[] = [];
  const sighted: Sightings[] = [];
  serve({
    'GET /api/rough/p': () => now.kept,
    'PUT /api/rough/p': (body: PieceForm) => {
      put.push(body);
      if (body.version !== now.kept.version) return stale;
      now.kept = { ...now.kept, ...body, version: body.version + 1 };
      return now.kept;
    },
    'POST /api/rough/work': () => now.kept.worked,
    'GET /api/rough/p/fit': () => new Response(''),
    'POST /api/rough/p/fit': (body: Fitting) => void asked.push(body),
    'GET /api/solids/hash': () => cube,
    'GET /api/usual': () => usual,
    'GET /api/tints': () => ({
      tints: [{ key: 'yellow-green', usual: ['Peridot'], absorption: [0.1, 0.05, 0.2] }],
    }),
    'POST /api/rough/sightings': (body: Sightings) => {
      sighted.push(body);
      const from = { x: 0, y: 0, z: 1 };
      const done = body.sightings.length === 2;
      return {
        lines: [{ from, to: from }],
        at: done ? { x: 0.1, y: 0.2, z: 0.3 } : null,
        gap: 0.04,
      };
    },
    'POST /api/rough/face': (body: FaceAsked) => {
      looks.push(body);
      return {
        picture: 'data:image/png;base64,',
        figures: { return: 0.5, window: 0 },
        colour: '#80c010',
        flaws: [{ flaw: 0, images: 7, share: 0.031 }],
      };
    },
    'GET /api/materials': () => ({ materials: [] }),
    'GET /api/settings': () => ({}),
  });
  renderInApp(<PieceRoom />, '/rough/p', '/rough/:id');
  await screen.findByRole('heading', { name: 'Piece 4 · block' });
  return { now, asked, put, looks, sighted };
}

const flaw = () => screen.getByLabelText(r.flaw.drag('veil'));

test('a flaw is moved by the arrow keys, is not saved until it is, and then over what was read', async () => {
  const { put } = await open();
  expect(screen.queryByText(r.unsaved)).toBeNull();
  // Up on the screen is up in the piece as well, but for the way it is held askew.
  fireEvent.keyDown(flaw(), { key: 'ArrowUp' });
  await screen.findByText(r.unsaved);
  expect((screen.getByText(r.fit.again) as HTMLButtonElement).disabled).toBe(true);
  fireEvent.click(screen.getByText(r.save));
  await waitFor(() => expect(put).toHaveLength(1));
  const moved = put[0]!.rough.flaws[0]!.at;
  expect(Math.hypot(moved.x - 0.5, moved.y, moved.z)).toBeCloseTo(0.1, 9);
  expect(put[0]!.version).toBe(3);
  await waitFor(() => expect(screen.queryByText(r.unsaved)).toBeNull());
});

test('what was changed elsewhere meanwhile is shown beside it', async () => {
  const { now, put } = await open();
  now.kept = piece({ version: 4, along: 'olive' });
  fireEvent.keyDown(flaw(), { key: 'ArrowLeft' });
  fireEvent.click(screen.getByText(r.save));
  fireEvent.click(await screen.findByText(w.conflict.mine));
  await waitFor(() => expect(put.at(-1)!.version).toBe(4));
});

test('what holds a stone is told, and what the flaws cost is asked for that stone alone', async () => {
  const { asked } = await open();
  expect(screen.getByText('veil, 2 natural faces')).toBeTruthy();
  fireEvent.click(screen.getByText(r.fit.costs.ask));
  await waitFor(() =>
    expect(asked).toEqual([{ diagrams: ['d'], allowance: 0.3, costs: true, rounds: 1 }]),
  );
});

test('costs that are known are told, and a plan takes no more than fits', async () => {
  await open(
    piece({ candidates: [{ ...candidate, costs: [{ flaw: 0, width: 9, carat: 5.25 }] }] }),
  );
  expect(screen.getByText('+1.25 ct · 9.00 mm')).toBeTruthy();
  const to = screen.getByText(r.fit.plan).getAttribute('href')!;
  expect(to).toBe('/stones/new?diagram=d&material=Peridot&piece=p&width=8.45');
});

test('the stone is shown with what of its flaws is seen, as the piece is on screen', async () => {
  const { looks } = await open();
  await screen.findByText(r.face.seen(7, '3.1 %'));
  expect(looks.at(-1)).toMatchObject({ revision: 'hash', show: 'flaws', tilt: 0 });
  fireEvent.keyDown(flaw(), { key: 'ArrowUp' });
  await waitFor(() => expect(looks.at(-1)!.flaws[0]!.at.z).not.toBe(0));
});

test('a flaw is placed by two looks, by keys alone', async () => {
  const { put, sighted } = await open();
  fireEvent.click(screen.getByText(r.flaw.sightings.start));
  const round = screen.getByLabelText(r.round);
  await screen.findByText(r.flaw.sightings.steps[0]!);
  fireEvent.keyDown(round, { key: 'Enter' });
  await screen.findByText(r.flaw.sightings.steps[1]!);
  for (let i = 0; i < 6; i++) fireEvent.keyDown(round, { key: 'ArrowRight' });
  fireEvent.keyDown(round, { key: 'Enter' });
  await screen.findByText(r.flaw.sightings.found('0.04 mm'));
  fireEvent.click(screen.getByText(r.save));
  await waitFor(() => expect(put[0]!.rough.flaws[1]!.at).toEqual({ x: 0.1, y: 0.2, z: 0.3 }));
  const [first, second] = sighted[1]!.sightings.map((s) => s.eye);
  // Six steps of 7.5 degrees.
  const cos = first!.x * second!.x + first!.y * second!.y + first!.z * second!.z;
  expect((Math.acos(cos) * 180) / Math.PI).toBeCloseTo(45, 6);
});

test('a zone of colour lies in what the material mostly looks like, is moved and taken away', async () => {
  const { put } = await open();
  await screen.findByText(r.colour.add);
  await waitFor(() =>
    expect((screen.getByText(r.colour.add) as HTMLButtonElement).disabled).toBe(false),
  );
  fireEvent.click(screen.getByText(r.zone.add));
  fireEvent.keyDown(screen.getByLabelText(r.zone.drag(1, 'to')), { key: 'ArrowUp' });
  fireEvent.click(screen.getByText(r.save));
  await waitFor(() => expect(put).toHaveLength(1));
  const { along, across, zones } = put[0]!.rough.colour!;
  expect([along, across]).toEqual([
    [0.1, 0.05, 0.2],
    [0.1, 0.05, 0.2],
  ]);
  // It was laid as high as it is seen, from below, and one step was gone up.
  const reach = Math.sqrt(3);
  expect(zones[0]!.from).toBeCloseTo(-reach, 3);
  expect(zones[0]!.to).toBeCloseTo(-0.3 * reach + 0.1, 3);
  fireEvent.click(screen.getByText(r.zone.remove));
  expect(screen.queryByLabelText(r.zone.drag(1, 'to'))).toBeNull();
});

test('an axis is set as it is seen, and the table kept at an angle to it', async () => {
  const { put } = await open();
  fireEvent.click(screen.getByText(r.axis.add));
  fireEvent.change(await screen.findByLabelText(r.axis.toTable), { target: { value: '90' } });
  fireEvent.click(screen.getByText(r.save));
  await waitFor(() => expect(put).toHaveLength(1));
  const { direction, toTable, kind } = put[0]!.rough.axis!;
  expect([kind, toTable]).toEqual(['optic', 90]);
  // From left to right on the screen lies level while the piece stands upright.
  expect(direction.z).toBeCloseTo(0, 9);
  expect(Math.hypot(direction.x, direction.y)).toBeCloseTo(1, 9);
});

test('a look is answered by keys, goes on where it stopped, and what is seen becomes a flaw', async () => {
  const { put } = await open();
  fireEvent.click(screen.getByText(lookWords.start));
  const dialog = await screen.findByRole('dialog');
  fireEvent.keyDown(dialog, { key: '1' });
  fireEvent.keyDown(dialog, { key: '0' });
  await screen.findByText(lookWords.ways.reflected.name);
  fireEvent.keyDown(dialog, { key: '2' });
  fireEvent.change(await screen.findByLabelText(lookWords.note), { target: { value: 'a flash' } });
  fireEvent.click(screen.getByText(lookWords.mark));
  // Where it is clicked is for a browser to try; that it waits for the click is told.
  await screen.findByText(r.flaw.place);
  fireEvent.click(screen.getByText(r.save));
  await waitFor(() =>
    expect(put[0]!.seen).toEqual([
      { way: 'white', what: 'nothing', note: '' },
      { way: 'backlit', what: 'skipped', note: '' },
      { way: 'reflected', what: 'something', note: 'a flash' },
    ]),
  );
});
