import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { BlindTrial, Verdict } from '../../api/trials';
import { renderInApp } from '../../testing/app';
import { Refused, serve } from '../../testing/server';
import { kitWords } from '../../words/kit';
import { JudgeRoom } from './JudgeRoom';

const k = kitWords.blind;

afterEach(cleanup);

const trial = (change: Partial<BlindTrial> = {}): BlindTrial => ({
  id: 't',
  name: 'Twins',
  question: 'Which of them looks brighter?',
  differs: 'the girdle',
  created: '2026-11-29T10:00:00Z',
  letters: ['B', 'A'],
  judges: [],
  outcome: null,
  ...change,
});

async function open(now: () => BlindTrial, judge: (v: Verdict) => unknown = () => ({})) {
  serve({ 'GET /api/trials/t': now, 'POST /api/trials/t/verdicts': judge });
  renderInApp(<JudgeRoom />, '/kit/trials/t/judge', '/kit/trials/:id/judge');
  await screen.findByText('Which of them looks brighter?');
}

const letters = () => screen.getAllByRole('button', { name: /^Tray/ }).map((b) => b.textContent);

const give = () => screen.getByText<HTMLButtonElement>(k.give);

test('a judge says who and which, and the order of the trays is new for the next alone', async () => {
  const said: Verdict[] = [];
  let now = trial();
  await open(
    () => now,
    (v) => {
      said.push(v);
      now = trial({ letters: ['A', 'B'], judges: ['Ines'] });
      return {};
    },
  );
  expect(letters()).toEqual(['B', 'A']);
  expect(screen.queryByText('the girdle')).toBeNull();
  expect(give().disabled).toBe(true);
  fireEvent.click(screen.getByText(k.same));
  expect(give().disabled).toBe(true);
  fireEvent.change(screen.getByLabelText(k.yourName), { target: { value: ' Ines ' } });
  fireEvent.click(screen.getByLabelText(k.chosen('A')));
  fireEvent.click(give());
  fireEvent.click(await screen.findByText(k.next));
  expect(said).toEqual([{ judge: 'Ines', letter: 'A', note: '' }]);
  await waitFor(() => expect(letters()).toEqual(['A', 'B']));
  expect(screen.getByLabelText<HTMLInputElement>(k.yourName).value).toBe('');
});

test('who was heard already is told so, and nothing that was said is lost', async () => {
  await open(
    () => trial(),
    () => new Refused(422, { detail: 'Ines has judged already.' }),
  );
  fireEvent.change(screen.getByLabelText(k.yourName), { target: { value: 'Ines' } });
  fireEvent.change(screen.getByLabelText(k.note), { target: { value: 'warmer light' } });
  fireEvent.click(screen.getByText(k.same));
  fireEvent.click(give());
  expect(await screen.findByText('Ines has judged already.')).toBeTruthy();
  expect(screen.getByDisplayValue('warmer light')).toBeTruthy();
});

test('a trial that is over hears nobody', async () => {
  await open(() => trial({ outcome: { entries: [], alike: 0, chance: 1, says: '', notes: [] } }));
  expect(screen.getByText(k.closed)).toBeTruthy();
  expect(screen.queryByLabelText(k.yourName)).toBeNull();
});
