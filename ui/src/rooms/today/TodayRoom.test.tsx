import { cleanup, screen } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { renderInApp } from '../../testing/app';
import { serve } from '../../testing/server';
import { copyWords as c } from '../../words/copies';
import { deviceWords } from '../../words/devices';
import { moment } from '../../words/numbers';
import { TodayRoom } from './TodayRoom';

afterEach(cleanup);

test('Today says what the owner should look after', async () => {
  serve({
    'GET /api/today': () => ({ cutting: [], due: [], cut: [], planned: [], finished: [] }),
    'GET /api/notices': () => ({
      copies: { last: '2026-11-20T20:00:00Z', failed: '' },
      wrong: { count: 12, last: '2026-11-29T20:00:00Z', closed: true },
    }),
    'GET /api/diagrams': () => ({ diagrams: [], next: '', total: 0, outlines: [], gears: [] }),
  });
  renderInApp(<TodayRoom />);
  expect(await screen.findByText(c.onToday.old(moment('2026-11-20T20:00:00Z')))).toBeTruthy();
  expect(screen.getByText(deviceWords.wrong(12, moment('2026-11-29T20:00:00Z')))).toBeTruthy();
  expect(screen.getByText(c.onToday.look).closest('a')!.getAttribute('href')).toBe(
    '/machine?show=copies',
  );
});
