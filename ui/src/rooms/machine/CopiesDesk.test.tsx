import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import type { CopiesPage, CopyLine } from '../../api/copies';
import { renderInApp } from '../../testing/app';
import { Refused, serve } from '../../testing/server';
import { copyWords as c } from '../../words/copies';
import { moment } from '../../words/numbers';
import { CopiesDesk } from './CopiesDesk';

afterEach(cleanup);

const line = (change: Partial<CopyLine> = {}): CopyLine => ({
  name: 'a.cressa.zip',
  made: '2026-11-28T20:00:00Z',
  lastEntry: '2026-11-28T19:00:00Z',
  stones: 40,
  diagrams: 17,
  events: 900,
  photos: 3,
  bytes: 2_500_000,
  problem: '',
  ...change,
});

const pageOf = (change: Partial<CopiesPage> = {}): CopiesPage => ({
  plan: { every: 'day', folder: '', keep: 7 },
  shelf: '/records/copies',
  last: '2026-11-28T20:00:00Z',
  failed: '',
  failedAt: null,
  job: { what: '', done: 0, total: 0, ended: '', problem: '' },
  records: 'first',
  now: line({ name: '', stones: 41 }),
  copies: [line()],
  ...change,
});

async function open(start: CopiesPage, answers: Parameters<typeof serve>[0] = {}) {
  const server = { page: start };
  const { asked } = serve({ 'GET /api/copies': () => server.page, ...answers });
  renderInApp(<CopiesDesk />);
  await screen.findByText(c.last(moment('2026-11-28T20:00:00Z')));
  return { server, asked };
}

test('a copy is brought back only after what it holds stood beside what is there now', async () => {
  const reload = vi.fn();
  vi.stubGlobal('location', { ...location, reload });
  const { server, asked } = await open(pageOf(), {
    'POST /api/copies/a.cressa.zip/restore': () => {
      server.page = pageOf({
        job: { what: 'restore', done: 1, total: 4, ended: '', problem: '' },
      });
      return undefined;
    },
  });
  const back = c.bringBackOf(moment('2026-11-28T20:00:00Z'));
  fireEvent.click(screen.getByLabelText(back));
  const dialog = await screen.findByRole('dialog');
  expect(within(dialog).getByText('40')).toBeTruthy();
  expect(within(dialog).getByText('41')).toBeTruthy();
  fireEvent.click(within(dialog).getByText(c.cancel));
  expect(asked.filter((a) => a.startsWith('POST'))).toEqual([]);
  fireEvent.click(screen.getByLabelText(back));
  fireEvent.click(within(await screen.findByRole('dialog')).getByText(c.replace));
  expect(await screen.findByText(c.bringing)).toBeTruthy();
  // The server begins anew with other records: the page is loaded anew.
  server.page = pageOf({ records: 'second' });
  await waitFor(() => expect(reload).toHaveBeenCalled(), { timeout: 5000 });
});

test('a copy that cannot be brought back says why, and so does a try that failed', async () => {
  await open(
    pageOf({
      copies: [line({ problem: 'the copy is damaged' })],
      failed: 'The disk is full.',
      failedAt: '2026-11-29T20:00:00Z',
      job: { what: 'copy', done: 1, total: 4, ended: 'failed', problem: 'The disk is full.' },
    }),
  );
  expect(screen.getByText('the copy is damaged')).toBeTruthy();
  expect(screen.getByText(c.bringBack).closest('button')!.disabled).toBe(true);
  expect(screen.getByText(c.jobFailed('The disk is full.'))).toBeTruthy();
  expect(
    screen.getByText(c.failed('The disk is full.', moment('2026-11-29T20:00:00Z'))),
  ).toBeTruthy();
});

test('a plan is kept, and one that cannot work is refused with what was typed still there', async () => {
  const plans: unknown[] = [];
  await open(pageOf(), {
    'PUT /api/copies/plan': (plan: { folder: string }) => {
      plans.push(plan);
      return plan.folder === 'stick'
        ? new Refused(422, { detail: 'From its root on.' })
        : undefined;
    },
  });
  const folder = screen.getByLabelText(c.folder);
  fireEvent.change(folder, { target: { value: 'stick' } });
  fireEvent.click(screen.getByText(c.save));
  expect(await screen.findByText('From its root on.')).toBeTruthy();
  expect((folder as HTMLInputElement).value).toBe('stick');
  fireEvent.change(folder, { target: { value: '/mnt/stick' } });
  fireEvent.click(screen.getByText(c.save));
  expect(await screen.findByText(c.saved)).toBeTruthy();
  expect(plans.at(-1)).toEqual({ every: 'day', folder: '/mnt/stick', keep: 7 });
});
