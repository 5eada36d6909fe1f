import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Choices, StoneLine, StonePage } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { serveLogs } from '../../testing/logs';
import { choicesOf, draftOf, scriptOf, settingsOf, stoneOf, usual } from '../../testing/records';
import { Refused, serve, stale } from '../../testing/server';
import { workWords } from '../../words/works';
import { w } from '../../words/words';
import { StoneRoom } from './StoneRoom';

afterEach(cleanup);

/** What a plan comes to, as far as the page cannot do without it. */
const assessment = {
  draft: draftOf(),
  stone: null,
  warnings: [],
  obstacles: [],
  calipers: [],
  ranking: [],
  turns: { pavilion: 0, crown: 0 },
  criticalAngle: { low: 31, high: 32 },
  refractiveIndex: { low: 1.88, high: 1.94 },
  proposed: null,
};

const pageOf = (change: Partial<StoneLine> = {}, choices: Partial<Choices> = {}) => {
  const summary = stoneOf(change);
  const { workId: id, task, created } = summary;
  return {
    summary,
    assessment,
    plan: { no: 1, diagramId: 'd1', revision: 'v1', choices: choicesOf(choices) },
    works: [{ id, task, created, finished: '' }],
    before: null,
    began: null,
    reckoned: 0,
    history: [],
    photos: [],
  } as unknown as StonePage;
};

async function open(page = pageOf()) {
  const server = { page, plans: [] as { choices: Choices; version: number }[] };
  serve({
    ...serveLogs().answers,
    'GET /api/stones/a': () => server.page,
    'GET /api/stones/a/script': () => scriptOf(),
    'GET /api/settings': () => settingsOf(),
    'GET /api/usual': () => usual,
    'GET /api/materials': () => ({ materials: [] }),
    'POST /api/assess': () => new Refused(422, { detail: 'not assessed here' }),
    'PUT /api/stones/a/plan': (body: { choices: Choices; version: number }) => {
      if (body.version !== server.page.summary.version) return stale;
      server.plans.push(body);
      server.page = pageOf({ version: body.version + 1 }, body.choices);
      return server.page;
    },
  });
  renderInApp(<StoneRoom />, '/stones/a', '/stones/:id');
  await screen.findByRole('heading', { level: 1 });
  return server;
}

const size = () => screen.getByLabelText<HTMLInputElement>(/Size \(mm\)/);
const offered = (name: string) => screen.queryByText(name, { selector: 'a, button' }) !== null;

test.each([
  ['planned', { cut: true, resume: false, change: true }],
  ['cutting', { resume: true, cut: false, change: true }],
  ['cut', { finish: true, change: true, resume: false, cut: false }],
  ['finished', { editCard: true, finish: false, change: false, cut: false }],
] as const)('a stone that is %s offers what comes next', async (state, offers) => {
  await open(pageOf({ state }));
  for (const [name, there] of Object.entries(offers))
    expect([name, offered(w.stones[name as 'cut'])]).toEqual([name, there]);
});

test('of earlier work nothing can be changed', async () => {
  const page = pageOf();
  page.works.push({ ...page.works[0]!, id: 'w2', task: 'recut' });
  await open(page);
  for (const name of ['cut', 'change', 'finish'] as const)
    expect(offered(w.stones[name])).toBe(false);
  expect(screen.getByText(workWords.toPresent).getAttribute('href')).toBe('/stones/a');
});

test('a plan is changed over the version that was read, and said to be', async () => {
  const server = await open();
  fireEvent.click(screen.getByText(w.stones.change));
  fireEvent.change(size(), { target: { value: '7,75' } });
  fireEvent.click(screen.getByText(w.stones.saveChange));
  expect(await screen.findByText(w.stones.changed)).toBeTruthy();
  expect(server.plans).toMatchObject([{ version: 5, choices: { size: { mm: 7.75 } } }]);
  // The page shows the new plan, and the next change begins with it.
  fireEvent.click(await screen.findByText(w.stones.change));
  expect(size().value).toBe('7,75');
});

test('a plan that was left is as it was, and one that was changed elsewhere is shown', async () => {
  const server = await open();
  fireEvent.click(screen.getByText(w.stones.change));
  fireEvent.change(size(), { target: { value: '6' } });
  fireEvent.click(screen.getByText(w.common.cancel));
  fireEvent.click(await screen.findByText(w.stones.change));
  expect(size().value).toBe('8');
  server.page = pageOf({ version: 9 }, { gear: 64 });
  fireEvent.change(size(), { target: { value: '6.5' } });
  fireEvent.click(screen.getByText(w.stones.saveChange));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText(`${w.stones.gear} 64`)).toBeTruthy();
  expect(dialog.getByText(`6.50 mm ${w.stones.bases.width}`)).toBeTruthy();
  fireEvent.click(dialog.getByText(w.conflict.mine));
  await waitFor(() => expect(server.plans).toHaveLength(1));
  expect(server.plans[0]).toMatchObject({ version: 9, choices: { gear: 96, size: { mm: 6.5 } } });
});
