import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { ApiProblem, type Problem } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { stale } from '../../testing/server';
import { w } from '../../words/words';
import { SaveConflict } from './Conflict';
import { Refusal } from './Refusal';
import { useSaveOver } from './useSaveOver';

afterEach(cleanup);

interface Card {
  text: string;
  version: number;
}

/** A record that somebody else writes too, and everything that was done to it. */
function recordOf(kept: Card) {
  const writes: Card[] = [];
  return {
    kept,
    writes,
    write: async (text: string, version: number) => {
      writes.push({ text, version });
      if (version !== record.kept.version) throw new ApiProblem(stale.problem as Problem);
      record.kept = { text, version: version + 1 };
    },
    read: async () => record.kept,
    versionOf: (c: Card) => c.version,
  };
}
let record: ReturnType<typeof recordOf>;

function Form() {
  const saving = useSaveOver(record, {
    onSaved: () => outcomes.push('saved'),
    onTheirs: (c) => outcomes.push(`took ${c.text}`),
  });
  return (
    <>
      <button onClick={() => saving.save('mine', 1)}>save</button>
      <Refusal error={saving.error} />
      <SaveConflict saving={saving} mine={['mine']} linesOf={(c) => [c.text]} />
    </>
  );
}
let outcomes: string[];

function open(kept: Card) {
  record = recordOf(kept);
  outcomes = [];
  renderInApp(<Form />);
  fireEvent.click(screen.getByText('save'));
}

test('over what was read it is saved, without a question', async () => {
  open({ text: 'old', version: 1 });
  await waitFor(() => expect(outcomes).toEqual(['saved']));
  expect(screen.queryByRole('dialog')).toBeNull();
});

test('what was changed elsewhere is shown beside it, and can be taken', async () => {
  open({ text: 'theirs', version: 4 });
  fireEvent.click(await screen.findByText(w.conflict.theirs));
  expect(outcomes).toEqual(['took theirs']);
  expect(record.writes).toEqual([{ text: 'mine', version: 1 }]);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('what is on screen is kept over what was shown and over nothing newer', async () => {
  open({ text: 'theirs', version: 4 });
  expect((await screen.findByRole('dialog')).textContent).toContain('theirs');
  // While both are looked at it changes once more.
  record.kept = { text: 'newer', version: 5 };
  fireEvent.click(screen.getByText(w.conflict.mine));
  expect(await screen.findByText('newer')).toBeTruthy();
  fireEvent.click(screen.getByText(w.conflict.mine));
  await waitFor(() => expect(outcomes).toEqual(['saved']));
  expect(record.writes.map((c) => c.version)).toEqual([1, 4, 5]);
});

test('any other refusal is said and asks nothing', async () => {
  record = recordOf({ text: 'old', version: 1 });
  record.write = async () => {
    throw new ApiProblem({
      type: '',
      status: 422,
      detail: 'The name is too long.',
      places: [],
    } as unknown as Problem);
  };
  outcomes = [];
  renderInApp(<Form />);
  fireEvent.click(screen.getByText('save'));
  expect((await screen.findByRole('alert')).textContent).toContain('The name is too long.');
  expect(screen.queryByRole('dialog')).toBeNull();
});
