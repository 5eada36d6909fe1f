import {
  MutationObserver,
  QueryClient,
  QueryObserver,
  type MutationOptions,
} from '@tanstack/react-query';
import { expect, test, vi } from 'vitest';
import { diagramOf, draftOf } from '../testing/records';
import { serve, stale } from '../testing/server';
import type { DiagramPage, Settings } from './client';
import {
  chooseSense,
  copyDiagram,
  diagramQuery,
  draftRecord,
  keepDiagram,
  libraryQuery,
  pictureQuery,
  removeDiagram,
  saveDraft,
  varyDiagram,
} from './diagrams';
import { reread } from './refresh';
import { fieldsQuery, materialsQuery, settingsQuery, storeSettings, usualQuery } from './settings';
import { logbookQuery, planStone, stoneQuery, stonesQuery, takeBack, todayQuery } from './stones';

/** What rooms may have on their screens. */
const shown = {
  library: libraryQuery({}).queryKey,
  d1: diagramQuery('d1').queryKey,
  d2: diagramQuery('d2').queryKey,
  picture: pictureQuery('abc').queryKey,
  today: todayQuery.queryKey,
  stones: stonesQuery({}).queryKey,
  s1: stoneQuery('s1').queryKey,
  logbook: logbookQuery.queryKey,
  materials: materialsQuery.queryKey,
  usual: usualQuery.queryKey,
  fields: fieldsQuery.queryKey,
};

const page = { ...diagramOf({ version: 3 }), judged: { level: 'easy' }, variants: [] } as never;

function cache() {
  const queries = new QueryClient();
  for (const key of Object.values(shown)) queries.setQueryData<unknown>(key, {});
  queries.setQueryData(shown.d1, page);
  const outdated = () =>
    Object.entries(shown)
      .filter(([, key]) => queries.getQueryState(key)!.isInvalidated)
      .map(([name]) => name);
  const run = <T>(mutation: MutationOptions<never, Error, T>, asked: T) =>
    new MutationObserver(queries, mutation as never).mutate(asked as never);
  return { queries, outdated, run };
}

const library = ['library', 'd1', 'd2'];
const bench = ['today', 'stones', 's1', 'logbook'];

test.each([
  ['a variant', varyDiagram, { id: 'd1' }, library],
  ['a copy', copyDiagram, 'd1', ['library']],
  // The page of what was deleted must not ask for it again.
  ['a deletion', removeDiagram, { id: 'd1', name: '' }, ['library']],
  ['a kept version', keepDiagram, diagramOf(), ['library']],
  ['a plan', planStone, { name: '', diagramId: 'd1', choices: {} }, bench],
  ['a repair', takeBack, { stone: 's1', intake: {}, version: 1 }, bench],
])('after %s just what shows it is read anew', async (_, mutation, asked, expected) => {
  serve({ POST: () => diagramOf(), DELETE: () => undefined });
  const { run, outdated } = cache();
  await run(mutation as never, asked as never);
  await vi.waitFor(() => expect(outdated()).toEqual(expected));
});

test('other settings change what follows from them', async () => {
  const { queries, outdated } = cache();
  storeSettings(queries, { version: 4 } as Settings);
  expect(queries.getQueryData(settingsQuery.queryKey)).toMatchObject({ version: 4 });
  await vi.waitFor(() => expect(outdated()).toEqual(['materials', 'usual']));
});

test.each([
  ['a keep', keepDiagram, diagramOf({ version: 3 })],
  ['a sense', chooseSense, { diagram: diagramOf({ version: 3 }), indexing: 'shared' }],
])('%s that came too late reads the diagram anew and changes nothing', async (_, act, asked) => {
  serve({ POST: () => stale });
  const { run, outdated, queries } = cache();
  await expect(run(act as never, asked as never)).rejects.toThrow('It was changed elsewhere.');
  await vi.waitFor(() => expect(outdated()).toEqual(['d1']));
  expect(queries.getQueryData(shown.d1)).toEqual(page);
});

test('a version that was kept is judged anew, another draft of the same one is not', async () => {
  for (const [revision, judged] of [
    ['', { level: 'easy' }],
    ['new', null],
  ]) {
    serve({ POST: () => diagramOf({ version: 4, revision: revision as string }) });
    const { run, queries } = cache();
    await run(keepDiagram as never, diagramOf({ version: 3 }) as never);
    const now = queries.getQueryData<DiagramPage>(shown.d1)!;
    expect(now).toMatchObject({ version: 4, judged });
  }
});

test('a draft is written over the version that was read, and outlives its page where it is small', async () => {
  const sent: unknown[] = [];
  serve({ PUT: (body) => (sent.push(body), diagramOf({ version: 4 })) });
  await draftRecord('d1').write(draftOf({ name: 'Lantern' }), 3);
  expect(sent).toEqual([{ draft: draftOf({ name: 'Lantern' }), version: 3 }]);

  const requests: Request[] = [];
  const answering = globalThis.fetch;
  globalThis.fetch = (r) => (requests.push((r as Request).clone()), answering(r));
  await saveDraft('d1', draftOf(), 4, true);
  await saveDraft('d1', draftOf({ note: 'x'.repeat(70_000) }), 4, true);
  await saveDraft('d1', draftOf(), 4);
  expect(requests.map((r) => r.keepalive)).toEqual([true, false, false]);
});

test('a list that was asked for before a change and comes after it is asked for again', async () => {
  const answers: ((lines: string[]) => void)[] = [];
  const queries = new QueryClient();
  const list = new QueryObserver(queries, {
    queryKey: ['diagrams', 'list'],
    queryFn: () => new Promise<string[]>((answer) => answers.push(answer)),
  });
  const stop = list.subscribe(() => {});
  await vi.waitFor(() => expect(answers).toHaveLength(1));
  void reread(queries, ['diagrams']);
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  answers[0]!(['Meridian']);
  answers[1]!(['Meridian', 'Ecliptic']);
  await vi.waitFor(() => expect(list.getCurrentResult().data).toEqual(['Meridian', 'Ecliptic']));
  stop();
});
