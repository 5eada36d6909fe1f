import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import type { CopiesPage, CopyingLine, CopyLine } from '../../api/copies';
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
  records: 'first',
  now: line({ name: '', stones: 41 }),
  copies: [line()],
  ...change,
});

const told = (change: Partial<CopyingLine>): CopyingLine => ({
  what: 'restore',
  done: 1,
  total: 4,
  ended: '',
  problem: '',
  ...change,
});

/** Work that goes on: whoever asks is told its lines from the first on, until it is closed. */
function underWay(first: CopyingLine) {
  const bytes = (line: CopyingLine) => new TextEncoder().encode(JSON.stringify(line) + '\n');
  const lines = [first];
  const streams: ReadableStreamDefaultController[] = [];
  const start = (stream: ReadableStreamDefaultController) => {
    for (const line of lines) stream.enqueue(bytes(line));
    streams.push(stream);
  };
  return {
    answer: () => new Response(new ReadableStream({ start })),
    tell: (line: CopyingLine) => {
      lines.push(line);
      for (const stream of streams) stream.enqueue(bytes(line));
    },
    close: () => {
      for (const stream of streams) stream.close();
    },
  };
}

/** Opens the desk on a server that tells of the work in these lines, once it was asked to. */
async function open(start: CopiesPage, answers: Parameters<typeof serve>[0] = {}) {
  const server = { page: start as CopiesPage | Promise<CopiesPage>, lines: [] as CopyingLine[] };
  const { asked } = serve({
    'GET /api/copies': () => server.page,
    'GET /api/copies/work': () =>
      new Response(server.lines.map((l) => JSON.stringify(l) + '\n').join('')),
    ...answers,
  });
  renderInApp(<CopiesDesk />);
  await screen.findByText(c.last(moment('2026-11-28T20:00:00Z')));
  return { server, asked };
}

test('a copy is brought back only after what it holds stood beside what is there now', async () => {
  const reload = vi.fn();
  vi.stubGlobal('location', { ...location, reload });
  const { server, asked } = await open(pageOf(), {
    'POST /api/copies/a.cressa.zip/restore': () => {
      server.lines = [told({}), told({ done: 4, ended: 'complete' })];
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
  expect(await screen.findByText(c.replacing)).toBeTruthy();
  expect(screen.getByText(c.now).closest('button')!.disabled).toBe(true);
  // The server begins anew with other records: the page is loaded anew.
  server.page = pageOf({ records: 'second' });
  await waitFor(() => expect(reload).toHaveBeenCalled());
});

test('a server that is gone before it has told anything is waited for', async () => {
  const reload = vi.fn();
  vi.stubGlobal('location', { ...location, reload });
  const away = () => {
    throw new TypeError('nobody answers');
  };
  let work = () => new Response('');
  const { server, asked } = await open(pageOf(), {
    'GET /api/copies/work': () => work(),
    'POST /api/copies/a.cressa.zip/restore': () => {
      work = away;
      return undefined;
    },
  });
  fireEvent.click(screen.getByText(c.bringBack));
  fireEvent.click(within(await screen.findByRole('dialog')).getByText(c.replace));
  expect(await screen.findByText(c.replacing)).toBeTruthy();
  // It was away for another reason: it answers with the same records, and the work is found again.
  const { answer, close } = underWay(told({ done: 2 }));
  work = answer;
  expect(await screen.findByText(c.bringing)).toBeTruthy();
  // The list is on its way while the server goes: what it says is older than that.
  let arrive: (page: CopiesPage) => void = () => {};
  server.page = new Promise((arrived) => (arrive = arrived));
  const before = asked.length;
  fireEvent(window, new Event('visibilitychange'));
  await waitFor(() => expect(asked.slice(before)).toContain('GET /api/copies'));
  server.page = pageOf({ records: 'second' });
  work = () => new Response('');
  close();
  expect(await screen.findByText(c.replacing)).toBeTruthy();
  arrive(pageOf());
  await waitFor(() => expect(reload).toHaveBeenCalled());
});

test('a copy that cannot be brought back says why, and so does a try that failed', async () => {
  const { server } = await open(
    pageOf({
      copies: [line(), line({ name: 'b.cressa.zip', problem: 'the copy is damaged' })],
      failed: 'The disk is full.',
      failedAt: '2026-11-29T20:00:00Z',
    }),
    {
      'POST /api/copies': () => {
        server.lines = [told({ ended: 'failed', problem: 'There is no room.' })];
        return undefined;
      },
    },
  );
  expect(screen.getByText('the copy is damaged')).toBeTruthy();
  const [whole, damaged] = screen.getAllByText(c.bringBack);
  expect(damaged!.closest('button')!.disabled).toBe(true);
  expect(
    screen.getByText(c.failed('The disk is full.', moment('2026-11-29T20:00:00Z'))),
  ).toBeTruthy();
  fireEvent.click(whole!);
  fireEvent.click(within(await screen.findByRole('dialog')).getByText(c.replace));
  expect(await screen.findByText(c.jobFailed('There is no room.'))).toBeTruthy();
});

test('work that is under way is found again and stopped, and the list is read again after it', async () => {
  const { answer, tell, close } = underWay(told({ what: 'copy' }));
  const { server, asked } = await open(pageOf(), {
    'GET /api/copies/work': answer,
    'DELETE /api/copies/work': () => undefined,
  });
  expect(await screen.findByText(c.making)).toBeTruthy();
  fireEvent.click(screen.getByText(c.stop));
  await waitFor(() => expect(asked).toContain('DELETE /api/copies/work'));
  server.page = pageOf({ copies: [] });
  tell(told({ what: 'copy', ended: 'stopped' }));
  close();
  expect(await screen.findByText(c.stopped)).toBeTruthy();
  await waitFor(() => expect(screen.queryByText(c.bringBack)).toBeNull());
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
