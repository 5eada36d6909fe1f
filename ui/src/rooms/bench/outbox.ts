import Dexie, { type Table } from 'dexie';
import type { BenchEvent } from '../../api/client';

/** Events that are made on this screen and not yet on the server's disk. */
interface Waiting {
  /** Counts on this device and so orders its events. */
  seq?: number;
  stone: string;
  event: BenchEvent;
}

class Outbox extends Dexie {
  waiting!: Table<Waiting, number>;

  constructor() {
    super('cressa-bench');
    this.version(1).stores({ waiting: '++seq, stone' });
  }
}

const box = new Outbox();

/**
 * What waits in this page alone, where the browser refuses to keep anything: some private windows
 * do, and a full disk. Null as long as it does not.
 */
let fleeting: Required<Waiting>[] | null = null;
// Counts on from page to page, as the database would.
let counted = Date.now();

/** Whether what waits would be lost with the page. */
export const isFleeting = (): boolean => fleeting !== null;

/** Puts events into the outbox, all or none; they survive a reload and a closed browser. */
export async function put(stone: string, events: readonly BenchEvent[]): Promise<void> {
  try {
    if (!fleeting)
      return void (await box.waiting.bulkAdd(events.map((event) => ({ stone, event }))));
  } catch {
    fleeting = [];
  }
  fleeting.push(...events.map((event) => ({ stone, event, seq: ++counted })));
}

/** The events of a stone that wait, oldest first. */
export async function waiting(stone: string): Promise<BenchEvent[]> {
  const kept = await box.waiting
    .where('stone')
    .equals(stone)
    .sortBy('seq')
    .catch(() => []);
  const all = [...kept, ...(fleeting ?? []).filter((item) => item.stone === stone)];
  return all.map((item) => ({ ...item.event, deviceSeq: item.seq! }));
}

/** Takes events out that are on disk. */
export async function arrived(events: readonly BenchEvent[]): Promise<void> {
  const seqs = events.map((e) => e.deviceSeq);
  fleeting = fleeting && fleeting.filter((item) => !seqs.includes(item.seq));
  await box.waiting.bulkDelete(seqs).catch(() => {});
}

const deviceKey = 'cressa-device';

/** The name of this screen in the log, made once. */
export function device(): string {
  const known = localStorage.getItem(deviceKey);
  if (known) return known;
  const name = randomID();
  localStorage.setItem(deviceKey, name);
  return name;
}

/** 128 random bits as 32 hexadecimal digits. */
export function randomID(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
}
