import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import type { Draft, Place, ReadFile } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { draftOf, tierOf, usual } from '../../testing/records';
import { Refused, serve } from '../../testing/server';
import { libraryWords as l } from '../../words/library';
import { stopsWords } from '../../words/order';
import { ImportRoom } from './ImportRoom';

afterEach(cleanup);

const placeOf = (change: Partial<Place>): Place => ({
  ...{ tier: -1, tierName: '', field: '', code: '', message: '', line: 1, column: 1 },
  ...change,
});

/** What the server makes of a text: its first line is the name, "broken" cannot be read. */
function read({ name, text }: { name: string; text: string }): ReadFile | Refused {
  if (text === 'broken')
    return new Refused(422, {
      detail: 'This is no table.',
      places: [placeOf({ message: 'Line 3 has no angle.', line: 3, column: 9 })],
    });
  const [head, ...rest] = text.split('\n');
  return {
    name,
    angles: [],
    whole: name.endsWith('.json'),
    draft: draftOf({ name: head, tiers: [tierOf({ stop: rest[0] ?? 'centre' })] }),
    lines: rest.map((line, i) => ({ no: i + 2, kind: 'unread', text: line, tier: -1 })),
    mistakes: rest.map((line, i) =>
      placeOf({ code: 'line-not-read', message: `"${line}" was not read.`, line: i + 2 }),
    ),
  };
}

/** Opens the room at a server that reads texts and takes diagrams. */
function open(more: Parameters<typeof serve>[0] = {}) {
  const added: { draft: Draft; origin: string }[] = [];
  serve({
    'POST /api/diagrams/read': read as never,
    'POST /api/diagrams': (body: never) => {
      added.push(body);
      return { id: `d${added.length}` };
    },
    'GET /api/usual': () => usual,
    'POST /api/solve': ({ draft }: { draft: Draft }) => ({
      serial: 0,
      problems: draft.tiers
        .filter((t) => t.stop === '')
        .map(() => placeOf({ code: 'stop-missing', field: 'stop', tier: 0 })),
      warnings: [],
      readings: [],
      stone: null,
    }),
    ...more,
  });
  const shown = renderInApp(<ImportRoom />, '/diagrams/import', '/diagrams/import');
  return { ...shown, added };
}

const files = (...list: [name: string, text: string][]) =>
  fireEvent.change(document.querySelector('input[type=file]')!, {
    target: { files: list.map(([name, text]) => new File([text], name)) },
  });
const button = (name: string) => screen.getByRole('button', { name });
const cameIn = () => within(screen.getByRole('list', { name: l.list }));

test('nothing is added before it was looked at, and then under the name it came with', async () => {
  const { added, router } = open();
  files(['lantern.csv', 'Lantern']);
  expect(await screen.findByRole('heading', { name: 'Lantern' })).toBeTruthy();
  expect(screen.getByText(l.noMarks)).toBeTruthy();
  expect(added).toEqual([]);
  fireEvent.click(button(l.add));
  await waitFor(() => expect(router.state.location.pathname).toBe('/diagrams/d1'));
  expect(added).toMatchObject([
    { draft: { name: 'Lantern' }, origin: 'lantern.csv', designed: false },
  ]);
});

test('what could not be read is said line by line, and corrected where it stands', async () => {
  const { added } = open();
  files(['lantern.txt', 'Lantern\nby eye, about halfway']);
  expect(await screen.findByText(/"by eye, about halfway" was not read/)).toBeTruthy();
  expect(screen.getByText(/Line 2, column 1/)).toBeTruthy();
  const text = screen.getByLabelText<HTMLTextAreaElement>(l.text);
  expect(text.value).toBe('Lantern\nby eye, about halfway');
  fireEvent.change(text, { target: { value: 'Lantern of the dome' } });
  expect(await screen.findByRole('heading', { name: 'Lantern of the dome' })).toBeTruthy();
  expect(screen.getByText(l.noMarks)).toBeTruthy();
  fireEvent.click(button(l.add));
  await waitFor(() => expect(added).toHaveLength(1));
  expect(added[0]!.draft.name).toBe('Lantern of the dome');
});

test('a file that cannot be read says where, and holds the others up no more than itself', async () => {
  const { added, router } = open();
  files(['one.json', 'Lantern'], ['bad.csv', 'broken'], ['two.json', 'Dome']);
  await waitFor(() => expect(cameIn().getAllByRole('listitem')).toHaveLength(3));
  fireEvent.click(cameIn().getByText('bad.csv'));
  const said = within(screen.getByRole('alert'));
  expect(said.getByText(/Line 3 has no angle/)).toBeTruthy();
  expect(said.getByText(/Line 3, column 9/)).toBeTruthy();
  fireEvent.click(button(l.addAll(2)));
  await waitFor(() => expect(router.state.location.pathname).toBe('/diagrams'));
  expect(added.map((a) => a.draft.name)).toEqual(['Lantern', 'Dome']);
});

test('where the server refuses one of several, those before it are added and the rest stays', async () => {
  let taken = 0;
  const { router } = open({
    'POST /api/diagrams': () =>
      ++taken === 2 ? new Refused(507, { detail: 'The disk is full.' }) : { id: `d${taken}` },
  });
  files(['one.json', 'Lantern'], ['two.json', 'Dome'], ['three.json', 'Star']);
  await waitFor(() => expect(cameIn().getAllByRole('listitem')).toHaveLength(3));
  fireEvent.click(button(l.addAll(3)));
  expect(await screen.findByText('The disk is full.')).toBeTruthy();
  expect(cameIn().getByText(l.added)).toBeTruthy();
  // Only what is not there yet is added by the next press.
  fireEvent.click(button(l.addAll(2)));
  await waitFor(() => expect(router.state.location.pathname).toBe('/diagrams'));
  expect(taken).toBe(4);
});

test('a pasted table stays in its field until it was read', async () => {
  let away = true;
  open({
    'POST /api/diagrams/read': ((asked: { name: string; text: string }) =>
      away ? new Refused(503, { detail: 'Cressa is busy.' }) : read(asked)) as never,
  });
  const field = screen.getByLabelText<HTMLTextAreaElement>(l.paste);
  expect(button(l.read)).toHaveProperty('disabled', true);
  fireEvent.change(field, { target: { value: 'Lantern' } });
  fireEvent.click(button(l.read));
  expect(await screen.findByText(/Cressa is busy/)).toBeTruthy();
  away = false;
  fireEvent.change(field, { target: { value: 'Lantern' } });
  fireEvent.click(button(l.read));
  expect(await screen.findByRole('heading', { name: 'Lantern' })).toBeTruthy();
  expect(field.value).toBe('');
});

test('what is left out goes, and stops that are missing can be found before it is added', async () => {
  const { added } = open({
    'POST /api/stops': () => ({
      proposals: [draftOf({ name: 'Lantern', tiers: [tierOf({ stop: 'size 1' })] })],
      guessed: true,
      ended: 'complete',
    }),
  });
  files(['one.json', 'Dome'], ['two.csv', 'Lantern\n']);
  await waitFor(() => expect(cameIn().getAllByRole('listitem')).toHaveLength(2));
  fireEvent.click(button(l.forget('one.json')));
  expect(cameIn().getAllByRole('listitem')).toHaveLength(1);
  expect(await screen.findByRole('button', { name: stopsWords.open })).toBeTruthy();
  fireEvent.click(button(stopsWords.open));
  fireEvent.click(await screen.findByText(stopsWords.take));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  fireEvent.click(button(l.add));
  await waitFor(() => expect(added).toHaveLength(1));
  expect(added[0]!.draft.tiers[0]!.stop).toBe('size 1');
});
