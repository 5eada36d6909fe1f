import Dexie, { type Table } from 'dexie';
import { answer, ApiProblem, client } from '../api/client';
import { streamOf, type Happening, type LogEvent } from './events';
import type { Kept } from './kept';
import { diskWords } from '../words/disk';

/** An entry as version 7 of the records had it wait in this browser. */
interface Waiting {
  seq: number;
  stone: string;
  event: {
    id: string;
    device: string;
    deviceTime: string;
    kind: string;
    setup: string;
    pass: string;
    facet: string;
    item: string;
    undoes: string;
    text: string;
  };
}

const before = 'cressa-bench';

/**
 * Takes over what an older version of the application left waiting in this browser: it is sent from
 * here. What belongs to no stone any more is listed with the refused.
 */
export async function carryOver(
  kept: Kept,
  workOf: (stone: string) => Promise<string | undefined> = presentWork,
): Promise<void> {
  if (!(await Dexie.exists(before))) return;
  const old = new Dexie(before);
  old.version(1).stores({ waiting: '++seq, stone' });
  try {
    const waiting = await (old.table('waiting') as Table<Waiting, number>).toArray();
    for (const stone of new Set(waiting.map((w) => w.stone))) {
      const own = waiting.filter((w) => w.stone === stone);
      const workId = await workOf(stone);
      const events = own.map((w) => entryOf(w, streamOf(workId ?? stone)));
      if (workId) await kept.events.bulkPut(events);
      else
        await kept.refused.bulkPut(
          events.map((event) => ({
            id: event.id,
            event,
            reason: 'no-such-stream',
            message: diskWords.stoneGone,
            at: new Date().toISOString(),
          })),
        );
      await old.table('waiting').bulkDelete(own.map((w) => w.seq));
    }
  } finally {
    old.close();
  }
  await Dexie.delete(before);
}

/** The present work of a stone, undefined where there is no such stone. */
async function presentWork(id: string): Promise<string | undefined> {
  const at = { params: { path: { id } } };
  for (const ask of [
    async () => (await answer(client.GET('/api/stones/{id}/script', at))).workId,
    async () => (await answer(client.GET('/api/repairs/{id}', at))).summary.workId,
  ])
    try {
      return await ask();
    } catch (e) {
      if (!(e instanceof ApiProblem && e.problem.status < 500)) throw e;
    }
  return undefined;
}

function entryOf({ seq, event: e }: Waiting, stream: string): LogEvent {
  return {
    ...happeningOf(e),
    id: e.id,
    stream,
    device: e.device,
    deviceSeq: seq,
    deviceTime: e.deviceTime,
    serverTime: e.deviceTime,
    version: 1,
    by: '',
    seq: 0,
    held: 1,
  };
}

function happeningOf(e: Waiting['event']): Happening {
  const { setup, pass, facet, item, undoes, text } = e;
  switch (e.kind) {
    case 'check':
      return { kind: 'check', payload: { setup, item } };
    case 'transfer':
      return { kind: 'transfer', payload: { setup } };
    case 'note':
      return { kind: 'note', payload: { text } };
    case 'undo':
      return { kind: 'undo', payload: { undoes } };
    case 'begin':
    case 'end':
      return { kind: e.kind, payload: {} };
    default:
      return { kind: e.kind as 'done' | 'skip', payload: { setup, pass, facet } };
  }
}
