import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test, vi } from 'vitest';
import type { Draft, DraftTier, Place, Reading, Reshape, StopParts } from '../../../api/client';
import { renderInApp } from '../../../testing/app';
import { draftOf, tierOf } from '../../../testing/records';
import { Refused, serve } from '../../../testing/server';
import { editingWords } from '../../../words/editing';
import { w } from '../../../words/words';
import { TierEditor } from './TierEditor';

afterEach(cleanup);

interface Asked {
  draft: Draft;
  tier: number;
  how: Reshape;
}

/** A server that appends empty tiers and turns indexes on by adding a mark. */
const reshape = ({ draft, tier, how }: Asked) => {
  const tiers = [...draft.tiers];
  if (how.kind === 'append') tiers.push(empty(`t${tiers.length + 1}`));
  else tiers[tier] = { ...tiers[tier]!, indexes: `${tiers[tier]!.indexes}+${how.by}` };
  return { draft: { ...draft, tiers } };
};
const empty = (key: string, change: Partial<DraftTier> = {}) =>
  tierOf({ key, name: '', angle: '', indexes: '', stop: '', ...change });

const fields = {
  outlines: [],
  material: [],
  stops: [
    { kind: 'meet', parts: ['pavilion', 'crown'], usual: null },
    { kind: 'centre', parts: ['pavilion'], usual: '0' },
    { kind: 'along', parts: ['pavilion', 'crown'], usual: '0.5' },
  ],
};

/** Shows the editor over tiers and returns what they are now. */
function open(
  tiers: DraftTier[],
  problems: Place[] = [],
  readings: Reading[] = [],
  answers: Parameters<typeof serve>[0] = {},
) {
  serve({ 'GET /api/fields': () => fields, 'POST /api/reshape': reshape, ...answers });
  const now = { draft: draftOf({ tiers }) };
  const mend = vi.fn();
  function Shown() {
    const [draft, setDraft] = useState(now.draft);
    const [selected, select] = useState<string | null>(null);
    now.draft = draft;
    return (
      <TierEditor
        {...{ draft, problems, readings, selected, set: setDraft }}
        {...{ stone: undefined, pulled: null, panel: null, off: [] }}
        {...{ onSelect: select, onPull: vi.fn(), onOff: vi.fn(), onStops: vi.fn(), onMend: mend }}
      />
    );
  }
  const { queries } = renderInApp(<Shown />);
  return { queries, tiers: () => now.draft.tiers, mend };
}

const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const type = (label: string, value: string) =>
  fireEvent.change(field(label), { target: { value } });
const names = () =>
  [...document.querySelectorAll<HTMLInputElement>('[data-name]')].map((e) => e.value);
const select = (label: string) => act(() => field(label).focus());
const placeOf = (change: Partial<Place>): Place => ({
  ...{ tier: 0, tierName: 'P1', field: '', code: '', message: '', line: 0, column: 0 },
  ...change,
});

test('Enter goes from tier to tier, and after the last it makes one', async () => {
  const { tiers } = open([tierOf(), tierOf({ key: 't2', name: 'P2' })]);
  fireEvent.keyDown(field(`P1 ${w.tiers.indexes}`), { key: 'Enter' });
  await waitFor(() => expect(document.activeElement).toBe(field(`P2 ${w.tiers.tier}`)));
  fireEvent.keyDown(field(`P2 ${w.tiers.stop}`), { key: 'Enter' });
  await waitFor(() => expect(tiers()).toHaveLength(3));
  await waitFor(() =>
    expect(document.activeElement).toBe([...document.querySelectorAll('[data-name]')][2]),
  );
});

const readingOf = (change: Partial<Reading>): Reading => ({
  ...{ tier: 0, field: 'stop', how: 'understood', read: '', says: '', asks: '', sure: true },
  ...change,
});

test('what a sheet says is asked where it is in doubt, and answered at the tier', async () => {
  const { tiers } = open(
    [tierOf({ part: '', stop: 'meet girdle' }), tierOf({ key: 't2', name: '2', part: '' })],
    [],
    [
      readingOf({ how: 'stop-guessed', read: 'meet P1 G1', says: 'to the meet', sure: false }),
      readingOf({
        tier: 1,
        field: 'part',
        how: 'part-asked',
        read: 'crown',
        asks: 'Which side?',
        sure: false,
      }),
      readingOf({ tier: 1, field: 'indexes', says: 'all sixteen' }),
    ],
  );
  // A closed tier tells only what should be looked at.
  expect(screen.getByText('to the meet')).toBeTruthy();
  expect(screen.queryByText('all sixteen')).toBeNull();
  fireEvent.click(screen.getByText(editingWords.reading.yes));
  expect(tiers()[0]!.stop).toBe('meet P1 G1');
  select(`2 ${w.tiers.angle} °`);
  expect(screen.getByText('all sixteen')).toBeTruthy();
  const asked = within(screen.getByRole('list', { name: editingWords.reading.label('2') }));
  fireEvent.click(asked.getByText(w.tiers.parts.pavilion!));
  expect(tiers()[1]!.part).toBe('pavilion');
});

test('what is typed while a tier is being added or reshaped stays', async () => {
  const waiting: (() => void)[] = [];
  const slow = (asked: Asked) => new Promise((done) => waiting.push(() => done(reshape(asked))));
  /** Waits for the request and answers it. */
  const answered = async () => {
    await waitFor(() => expect(waiting).toHaveLength(1));
    await act(async () => waiting.shift()!());
  };
  const { tiers } = open([tierOf()], [], [], { 'POST /api/reshape': slow });
  fireEvent.click(screen.getByText(w.diagrams.addTier));
  type(`P1 ${w.tiers.angle} °`, '42.5');
  await answered();
  await waitFor(() => expect(tiers()).toHaveLength(2));
  expect(tiers()[0]!.angle).toBe('42.5');
  select(`P1 ${w.tiers.angle} °`);
  fireEvent.click(screen.getByLabelText(editingWords.tier.actions('P1')));
  fireEvent.click(await screen.findByText(editingWords.tier.turnOn('1')));
  type(`P1 ${w.tiers.stop}`, 'size 0.9');
  await answered();
  await answered();
  await waitFor(() => expect(tiers()[0]!.indexes).toBe('96-12-24+1'));
  expect(tiers()[0]!.stop).toBe('size 0.9');
});

test('a tier that cannot be reshaped stays, and why is said', async () => {
  const { tiers } = open([tierOf()], [], [], {
    'POST /api/reshape': () => new Refused(422, { detail: 'These indexes cannot be read.' }),
  });
  const before = tiers();
  fireEvent.click(screen.getByText(w.diagrams.addTier));
  expect(await screen.findByText('These indexes cannot be read.')).toBeTruthy();
  expect(tiers()).toBe(before);
});

test('tiers are moved and taken out where they stand, by their keys', async () => {
  const { tiers } = open([
    tierOf({ key: 'a', name: 'P1' }),
    tierOf({ key: 'b', name: 'P1' }),
    tierOf({ key: 'c', name: 'P3' }),
  ]);
  select(`P3 ${w.tiers.angle} °`);
  expect(screen.getByLabelText<HTMLButtonElement>(w.diagrams.down('P3')).disabled).toBe(true);
  fireEvent.click(screen.getByLabelText(w.diagrams.up('P3')));
  expect(tiers().map((t) => t.key)).toEqual(['a', 'c', 'b']);
  // Two tiers of one name are two tiers.
  act(() => screen.getAllByLabelText(`P1 ${w.tiers.angle} °`)[1]!.focus());
  fireEvent.click(screen.getByLabelText(w.diagrams.remove('P1')));
  expect(tiers().map((t) => t.key)).toEqual(['a', 'c']);
  expect(names()).toEqual(['P1', 'P3']);
});

test('what is still empty or to be found is no mistake, what is wrong is', async () => {
  const { mend } = open(
    [tierOf({ stop: '' }), tierOf({ key: 't2', name: 'P2', stop: 'meet P9' })],
    [
      placeOf({ field: 'stop', code: 'stop-missing', message: 'P1 has no stop.' }),
      placeOf({ tier: 1, field: 'stop', code: 'meet-missing', message: 'There is no P9.' }),
    ],
  );
  expect(screen.queryByText('P1 has no stop.')).toBeNull();
  expect(screen.getByText(editingWords.missing(1))).toBeTruthy();
  select(`P1 ${w.tiers.stop}`);
  expect(screen.getByText(w.diagrams.blankTier)).toBeTruthy();
  select(`P2 ${w.tiers.stop}`);
  expect(screen.getByText('There is no P9.')).toBeTruthy();
  fireEvent.click(within(screen.getByText('There is no P9.')).getByRole('button'));
  expect(mend).toHaveBeenCalledOnce();
});

test('a stop is chosen from lists that begin with what is typed, and written as it would be typed', async () => {
  let asked: StopParts | undefined;
  const { tiers } = open(
    [tierOf({ stop: 'meet P2 P2' }), tierOf({ key: 't2', name: 'P2' })],
    [],
    [],
    {
      'POST /api/stops/parts': () => ({
        kind: 'meet',
        figure: '',
        unit: '',
        from: ['P2', 'P2'],
        to: [],
      }),
      'POST /api/stops/text': (parts: StopParts) => {
        asked = parts;
        return { stop: 'along 0.5 P2 P2 to P2' };
      },
    },
  );
  fireEvent.click(screen.getByLabelText(w.diagrams.pickStop('P1')));
  expect(await screen.findAllByLabelText(w.stopPicker.takeOut('P2'))).toHaveLength(2);
  const use = screen.getByText<HTMLButtonElement>(w.stopPicker.use);
  fireEvent.click(screen.getByText(w.stopKinds.along!));
  // It runs to somewhere: until that is said the stop is not whole.
  expect(use.disabled).toBe(true);
  const to = within(screen.getByRole('group', { name: w.stopPicker.to }));
  fireEvent.click(to.getByText('+ P2'));
  expect(screen.getByLabelText<HTMLInputElement>(w.stopPicker.at).value).toBe('0.5');
  fireEvent.click(use);
  await waitFor(() => expect(tiers()[0]!.stop).toBe('along 0.5 P2 P2 to P2'));
  expect(asked).toEqual({
    kind: 'along',
    figure: '0.5',
    unit: '',
    from: ['P2', 'P2'],
    to: ['P2'],
  });
});
