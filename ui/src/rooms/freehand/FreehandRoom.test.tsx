import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Draft, Freehand, FreehandSetting, FreehandUntil } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { cube } from '../../testing/cube';
import { diagramOf, draftOf, tierOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { freehandWords as t } from '../../words/freehand';
import { FreehandRoom } from './FreehandRoom';

afterEach(cleanup);

interface Asked {
  draft: Draft;
  setting: FreehandSetting | null;
  until: FreehandUntil | null;
}

const reach = (stop: string, z: number) => ({
  stop,
  words: `to ${stop}`,
  distance: z,
  points: [{ x: 0, y: 0, z }],
});

/** A server that adds a tier for every cut, offers two meets, and refuses a size under 1 mm. */
function stand({ draft, setting, until }: Asked): Freehand {
  const n = draft.tiers.length + 1;
  const upright = setting?.angle === 90;
  const small = until && until.stop === '' && until.size < 1;
  const stop = until?.stop || `size ${until?.size}`;
  const tier = tierOf({ key: `t${n}`, name: `P${n}`, angle: String(setting?.angle), stop });
  return {
    mmPerUnit: 9,
    mesh: cube,
    wheel: [],
    levels: { bottom: -1, top: 0.5, hasGirdle: false, girdleLow: 0, girdleHigh: 0, girdle: null },
    facets: [],
    tiers: draft.tiers.map((d) => ({
      name: d.name,
      angle: Number(d.angle),
      stop: d.stop,
    })) as never,
    whole: false,
    width: 9,
    length: 9,
    height: 9,
    girdle: null,
    next: setting && {
      tier: upright ? 'G1' : `P${n}`,
      part: upright ? 'girdle' : 'pavilion',
      level: false,
      margin: null,
      judgement: 'good',
      dials: setting.indexes.map((tooth) => ({ tooth, cheat: 0, cheatTurns: 0, azimuth: 0 })),
      below: setting.angle,
      above: setting.angle,
      reaches: upright ? [] : [reach('meet A', 0.4), reach('meet B', 0.2)],
      draft: until && !small ? { ...draft, tiers: [...draft.tiers, tier] } : null,
      mesh: until && !small ? cube : null,
      stop,
      problem: small ? 'That takes all of it.' : '',
    },
  };
}

async function open() {
  const saved: Draft[] = [];
  const first = diagramOf({ draft: draftOf({ name: 'Pebble', gear: '96', tiers: [] }) });
  let version = 1;
  serve({
    'GET /api/diagrams/d1': () => first,
    'POST /api/freehand': stand,
    'PUT /api/diagrams/d1/draft': ({ draft }: { draft: Draft }) => {
      saved.push(draft);
      return { ...first, draft, version: ++version };
    },
  });
  renderInApp(<FreehandRoom />, '/freehand/d1', '/freehand/:id');
  await screen.findByText('1 · to meet A');
  return { saved };
}

const key = (name: string) => fireEvent.keyDown(document.body, { key: name });
const cut = () => screen.getByRole<HTMLButtonElement>('button', { name: t.cut });
const ready = () => waitFor(() => expect(cut().disabled).toBe(false));

test('the first meet is meant until another one is chosen, and a key cuts', async () => {
  const { saved } = await open();
  await ready();
  key('Enter');
  await screen.findByText('meet A', { exact: false, selector: 'section *' });
  await screen.findByText(/P2$/);
  key('2');
  await ready();
  expect(screen.getByRole('button', { name: '2 · to meet B' }).getAttribute('aria-pressed')).toBe(
    'true',
  );
  key('Enter');
  await waitFor(() => expect(saved.at(-1)?.tiers.map((d) => d.stop)).toEqual(['meet A', 'meet B']));
  // Back takes the last cut off, and that is saved, too.
  key('Backspace');
  await waitFor(() => expect(saved.at(-1)?.tiers.map((d) => d.stop)).toEqual(['meet A']));
});

test('a cut that cannot be made says why and changes nothing', async () => {
  const { saved } = await open();
  fireEvent.change(screen.getByLabelText(t.angle), { target: { value: '90' } });
  await screen.findByText(t.noReach);
  expect(cut().disabled).toBe(true);
  fireEvent.click(screen.getByRole('button', { name: `2 · ${t.size}` }));
  fireEvent.change(screen.getByLabelText(t.sizeAcross), { target: { value: '0.5' } });
  await screen.findByText('That takes all of it.');
  expect(cut().disabled).toBe(true);
  key('Enter');
  fireEvent.change(screen.getByLabelText(t.sizeAcross), { target: { value: '8' } });
  await ready();
  expect(saved).toEqual([]);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: t.tidy }).disabled).toBe(true);
});

test('an index that the gear does not have asks for nothing', async () => {
  await open();
  fireEvent.change(screen.getByLabelText(t.index), { target: { value: '120' } });
  fireEvent.change(screen.getByLabelText(t.angle), { target: { value: '' } });
  await screen.findByText(t.nothing);
  expect(cut().disabled).toBe(true);
});
