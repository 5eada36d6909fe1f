import 'fake-indexeddb/auto';
import { act, cleanup, render, screen, waitFor } from '@testing-library/react';
import { ThemeProvider } from '@mui/material/styles';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { BenchScript } from '../../api/client';
import { NoticeProvider } from '../notice';
import { log, sender } from '../../log/browser';
import { streamOf } from '../../log/events';
import { makeTheme } from '../../theme/theme';
import { threadWords } from '../../words/thread';
import { StoneThread } from './Thread';

const facet = (id: string, tooth: number) => ({ id, tier: 'P1', setup: 0, dial: { tooth } });
const script = {
  workId: 'w1',
  planNo: 1,
  setups: [{ id: 's1' }],
  passes: [{ id: 'cut', name: 'Cut', lap: '' }],
  facets: [facet('f1', 96), facet('f2', 48)],
  visits: [0, 1].map((i) => ({ setup: 's1', pass: 'cut', facet: i, round: 0, minutes: 2 })),
  checks: [],
} as unknown as BenchScript;

beforeEach(() => {
  vi.spyOn(sender, 'catchUp').mockResolvedValue();
});
afterEach(cleanup);

test('a thread is not drawn before its log was read', async () => {
  render(
    <ThemeProvider theme={makeTheme('light')}>
      <NoticeProvider>
        <StoneThread script={script} closed={false} />
      </NoticeProvider>
    </ThemeProvider>,
  );
  expect(screen.getByRole('progressbar')).toBeTruthy();
  expect(screen.queryByText(threadWords.head)).toBeNull();
  await act(() => log.merge(streamOf('w1'), []));
  await waitFor(() => expect(screen.getByText(threadWords.head)).toBeTruthy());
});
