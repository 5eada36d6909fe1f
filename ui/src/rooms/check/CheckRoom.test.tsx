import 'fake-indexeddb/auto';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { CheckPage, Finding } from '../../api/gluing';
import { renderInApp } from '../../testing/app';
import { serveLogs } from '../../testing/logs';
import { stoneOf } from '../../testing/records';
import { serve } from '../../testing/server';
import { gluingWords } from '../../words/gluing';
import { CheckRoom } from './CheckRoom';

const k = gluingWords.check;

afterEach(cleanup);

const finding = (change: Partial<Finding>): Finding => ({
  topic: 'gear',
  verdict: 'care',
  text: 'Something.',
  do: 'Mend it.',
  where: '',
  tier: '',
  side: '',
  ...change,
});

/** Opens the check of a stone, with what is looked into. */
function open(findings: Finding[], piece = 'p') {
  const logs = serveLogs();
  const summary = stoneOf({ id: 's', workId: 'w', state: 'planned' });
  const check: CheckPage = { summary, planNo: 2, diagram: 'd', piece, cautions: [], findings };
  serve({
    ...logs.answers,
    'GET /api/stones/s/check': () => check,
    'GET /api/stones/s': () => ({
      summary,
      plan: { machine: 'The wheel' },
      assessment: { width: 8, mmPerUnit: 1, stone: null },
    }),
  });
  const { router } = renderInApp(<CheckRoom />, '/stones/s/check', '/stones/:id/check');
  return { stored: logs.stored, at: () => router.state.location };
}

test('the gravest stands first, whatever order it was found in, and its way out is one key away', async () => {
  const { at } = open([
    finding({ text: 'All is level.', verdict: 'fine' }),
    finding({ text: 'The gear is missing.' }),
    finding({ text: 'The rough is not known.', verdict: 'unknown', where: 'rough' }),
    finding({ text: 'The lap meets the dop.', verdict: 'grave', where: 'dop', side: 'crown' }),
  ]);
  await screen.findByText('The lap meets the dop.');
  const read = ['The lap meets the dop.', 'The gear is missing.', 'The rough is not known.'];
  const shown = document.body.textContent;
  expect(read.map((text) => shown.indexOf(text))).toEqual(
    read.map((text) => shown.indexOf(text)).sort((a, b) => a - b),
  );
  screen.getByText(k.lead(3));
  fireEvent.keyDown(document.body, { key: 'a' });
  await waitFor(() => expect(at().pathname + at().search).toBe('/stones/s/dop?for=crown'));
});

test('the piece of the stone is the way out of what the rough leaves open', async () => {
  const { at } = open([finding({ where: 'rough' })]);
  fireEvent.click(await screen.findByText(k.where.rough));
  await waitFor(() => expect(at().pathname).toBe('/rough/p'));
});

test('nothing blocks: going on is on record, with what was open then', async () => {
  const { stored, at } = open([
    finding({ text: 'Thin.', verdict: 'grave' }),
    finding({ text: 'All is level.', verdict: 'fine' }),
  ]);
  await screen.findByText('Thin.');
  await waitFor(() => expect(screen.getByText(k.done).closest('button')!.disabled).toBe(false));
  fireEvent.keyDown(document.body, { key: 'n' });
  await waitFor(() => expect(at().pathname).toBe('/stones/s/dop'));
  await waitFor(() => expect(stored).toHaveLength(1));
  expect(stored[0]).toMatchObject({
    stream: 'work/w',
    kind: 'vetted',
    payload: { plan: 2, open: ['Thin.'] },
  });
});
