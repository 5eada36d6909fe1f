import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { GluingPage, MountedDop, Mounting } from '../../api/gluing';
import { clocks } from '../../log/clocks';
import { renderInApp } from '../../testing/app';
import { serveLogs } from '../../testing/logs';
import { choicesOf, settingsOf, stoneOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { gluingWords as g } from '../../words/gluing';
import { boxOf, dopOutline, ontoLap } from './flat';
import { gluesOf, isInPlan } from './glues';
import { DoppingRoom } from './DoppingRoom';
import { readingsOf } from './Rolling';

afterEach(() => {
  cleanup();
  localStorage.clear();
});

test('a facet that meets the lap lies level at its distance, and the dop stands off it as reckoned', () => {
  const tilt = ontoLap(90);
  // At 90° the dop lies along the lap: its lower edge is a radius below the axis.
  const rod = dopOutline({ shape: 'flat', diameter: 6, near: 2 }, 20).map(tilt);
  expect(Math.max(...rod.map(([, y]) => y))).toBeCloseTo(3);
  for (const angle of [0, 37, 42, 61, 92]) {
    const t = (angle * Math.PI) / 180;
    // Two points of the facet's own line, at a distance of 4 from the origin.
    const on = (s: number) =>
      ontoLap(angle)([4 * Math.sin(t) + s * Math.cos(t), 4 * Math.cos(t) - s * Math.sin(t)]);
    expect(on(0)[1]).toBeCloseTo(4);
    expect(on(3)[1]).toBeCloseTo(4);
  }
  expect(dopOutline({ shape: 'vee', diameter: 6, near: 0 }, 9, 90)).toHaveLength(4);
  expect(boxOf(dopOutline({ shape: 'vee', diameter: 6, near: 0 }, 9))).toEqual({
    x: -3,
    y: -9,
    width: 6,
    height: 9,
  });
});

test('readings are read one by one, and one that is none is told', () => {
  expect(readingsOf(' 8.2  8.1 8.25 ')).toEqual({ readings: [8.2, 8.1, 8.25], bad: undefined });
  expect(readingsOf('8.2 about 8').bad).toBe('about');
  expect(readingsOf('8.2 -3').bad).toBe('-3');
});

const steps = [{ text: 'Clean both.', minutes: 5, caution: 'No flame.' }];
const sort = (name: string, of: string) =>
  ({ sort: of, name, minutes: 20, release: 'Warm it.', steps }) as GluingPage['adhesives'][number];

const dop = (change: Partial<MountedDop> = {}): MountedDop => ({
  item: '',
  name: 'Flat dop 5 mm',
  shape: 'flat',
  diameter: 5,
  near: 1,
  rim: 1,
  contact: 19,
  sound: true,
  faults: [],
  rooms: [1.2],
  tightest: 0,
  quills: [],
  bonds: ['epoxy', 'wax'].map((s) => ({
    sort: s as 'wax',
    contact: 19,
    bears: 3,
    sound: true,
    concerns: [],
  })),
  ...change,
});

const mounting = (change: Partial<Mounting> = {}): Mounting => ({
  setup: 's1',
  up: 'pavilion',
  advice: 'Grind a flat.',
  underside: 'level',
  along: 0,
  tiers: [
    {
      tier: 'P1',
      angle: 42,
      distance: 3,
      azimuth: 0,
      stone: [0, 0, 1, 0, 0, 1],
      body: [0, 0, 2, 0, 0, 2],
    },
  ],
  dops: [dop(), dop({ name: 'Flat dop 7 mm', diameter: 7, item: 'd7' })],
  taken: -1,
  glue: '',
  ...change,
});

const page = (change: Partial<GluingPage> = {}): GluingPage => ({
  summary: stoneOf({ id: 's', workId: 'w', state: 'planned' }),
  planNo: 1,
  choices: choicesOf(),
  preform: {
    turned: null,
    round: false,
    side: 0.3,
    foot: 0.3,
    overWidth: 7,
    overLength: 9,
    height: 5,
    wedges: [],
    kerf: 0.4,
    fromPiece: false,
    firstTiers: ['P1'],
    outline: [0, 0, 1, 0, 0, 1],
  },
  mountings: [mounting()],
  otherFirst: { first: 'crown', sides: [] },
  adhesives: [sort('Wax', 'wax'), sort('Epoxy', 'epoxy')],
  bottles: [{ item: 'b', name: 'Brown wax', sort: 'wax', minutes: 15, needs: [] }],
  cautions: [],
  ...change,
});

test('adhesives come as they suit the dop: a bottle of the kit for its sort, a spoiled one last', () => {
  const names = (p: GluingPage) => gluesOf(p, p.mountings[0]!).map((x) => x.name);
  expect(names(page())).toEqual(['Epoxy', 'Brown wax']);
  const old = page({
    bottles: [
      {
        item: 'e',
        name: 'Old epoxy',
        sort: 'epoxy',
        minutes: 60,
        needs: [{ text: 'old', grave: true }],
      },
    ],
  });
  expect(names(old)).toEqual(['Wax', 'Old epoxy']);
  // Words of the plan that nobody knows stay a choice.
  const hold = {
    dop: '',
    dopItem: '',
    adhesive: 'pitch from grandfather',
    adhesiveItem: '',
    tilt: 0,
    towards: 0,
  };
  const own = page({ choices: { ...choicesOf(), holds: [hold] } });
  expect(names(own)).toContain('pitch from grandfather');
  expect(gluesOf(own, own.mountings[0]!).filter((x) => isInPlan(x, hold))).toHaveLength(1);
});

test('a dop is taken into the plan as it was read, and what was glued is in the log with its clock running', async () => {
  const asked: unknown[] = [];
  serve({
    ...serveLogs().answers,
    'GET /api/stones/s/gluing': () => page(),
    'GET /api/settings': () => settingsOf(),
    'PUT /api/stones/s/plan': (body: unknown) => {
      asked.push(body);
      return { id: 's', number: 1, name: '', version: 2, workId: 'w' };
    },
  });
  renderInApp(<DoppingRoom />, '/stones/s/dop?for=pavilion', '/stones/:id/dop');
  fireEvent.click(await screen.findByText('Flat dop 7 mm'));
  fireEvent.click(screen.getByText('Brown wax'));
  fireEvent.click(screen.getByText(g.take));
  await waitFor(() => expect(asked).toHaveLength(1));
  expect(asked[0]).toMatchObject({
    choices: {
      holds: [{ dop: 'Flat dop 7 mm', dopItem: 'd7', adhesive: 'Brown wax', adhesiveItem: 'b' }],
    },
  });
  fireEvent.click(screen.getByRole('button', { name: /^Start 15 min/ }));
  expect(clocks()).toMatchObject([{ to: '/stones/s/dop?for=pavilion' }]);
  fireEvent.click(await screen.findByText(g.glued.record));
  await screen.findByText(/It cures until/);
  fireEvent.click(screen.getByText(g.glued.undo));
  await waitFor(() => expect(screen.queryByText(/It cures until/)).toBeNull());
});
