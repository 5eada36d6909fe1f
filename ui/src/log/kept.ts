import Dexie, { type Table } from 'dexie';
import type { LogEvent } from './events';
import { randomID } from '../api/making';

/** An entry that the server refused, with why and what to do. */
export interface RefusedEvent {
  id: string;
  event: LogEvent;
  reason: string;
  message: string;
  at: string;
}

/** Something that this browser keeps one of. */
interface Single {
  key: string;
  value: unknown;
}

/** What a bench shows, kept so that it can be opened without the network. */
interface KeptWork {
  path: string;
  work: unknown;
}

/** The browser's own database: whole logs, what was refused, and the work of open benches. */
export class Kept extends Dexie {
  events!: Table<LogEvent, string>;
  refused!: Table<RefusedEvent, string>;
  singles!: Table<Single, string>;
  works!: Table<KeptWork, string>;

  constructor(name = 'cressa') {
    // Strict: what is written is on this device's disk when the browser says so.
    super(name, { chromeTransactionDurability: 'strict' });
    this.version(1).stores({
      events: 'id, stream, held, deviceSeq',
      refused: 'id',
      singles: 'key',
      works: 'path',
    });
    // What older versions kept of the work says less than the bench needs now. It is fetched anew.
    for (const version of [2, 3]) this.version(version).upgrade((tx) => tx.table('works').clear());
  }

  /**
   * Adds events of this device, all or none. They get their numbers here, in one transaction over
   * all tabs; the device's name lies beside them, so that both are lost together or not at all.
   */
  async add(events: readonly LogEvent[]): Promise<LogEvent[]> {
    return this.transaction('rw', this.events, this.singles, async () => {
      const known = await this.singles.get('device');
      const own = (known?.value as { name: string; seq: number }) ?? { name: randomID(), seq: 0 };
      const numbered = events.map((e, i) => ({
        ...e,
        device: own.name,
        deviceSeq: own.seq + i + 1,
      }));
      await this.singles.put({
        key: 'device',
        value: { ...own, seq: own.seq + numbered.length },
      });
      await this.events.bulkAdd(numbered);
      return numbered;
    });
  }

  /** Puts in what the server's log of a stream has, up to the last of them without a gap. */
  async merge(stream: string, events: readonly LogEvent[]): Promise<void> {
    await this.transaction('rw', this.events, this.singles, async () => {
      await this.events.bulkPut([...events]);
      const reach = events.at(-1)?.seq ?? (await this.reachOf(stream)) ?? 0;
      await this.singles.put({ key: `reach/${stream}`, value: reach });
    });
  }

  /** Up to which place a stream's log is here without a gap; undefined before it was fetched. */
  async reachOf(stream: string): Promise<number | undefined> {
    return (await this.singles.get(`reach/${stream}`))?.value as number | undefined;
  }

  /**
   * Notes which records the server has. Where they are others than before, because a copy was
   * brought back, what the server held is forgotten, and what only this browser has stays. Returns
   * whether that was so.
   */
  async replaced(records: string): Promise<boolean> {
    return this.transaction('rw', this.events, this.singles, this.works, async () => {
      const known = (await this.singles.get('records'))?.value;
      if (known === records) return false;
      await this.singles.put({ key: 'records', value: records });
      if (known === undefined) return false;
      await this.events.where('held').equals(0).delete();
      await this.singles.where('key').startsWith('reach/').delete();
      await this.works.clear();
      return true;
    });
  }

  /** Logs, the IDs of what only this browser has, and what was refused, all of one moment. */
  read(streams: readonly string[]) {
    return this.transaction('r', this.events, this.refused, this.singles, async () => {
      const logs = [];
      for (const stream of streams) {
        const events = await this.events.where('stream').equals(stream).toArray();
        logs.push({ stream, known: (await this.reachOf(stream)) !== undefined, events });
      }
      const held = await this.events.where('held').equals(1).primaryKeys();
      return { logs, held, refused: await this.refused.toArray() };
    });
  }

  /** The oldest entries that only this browser has, of any stream. */
  async held(most: number): Promise<LogEvent[]> {
    const all = await this.events.where('held').equals(1).sortBy('deviceSeq');
    return all.slice(0, most);
  }

  /** Notes what the server answered: only entries that it names are touched. */
  async settle(
    stored: readonly { id: string; seq: number }[],
    refused: readonly RefusedEvent[],
  ): Promise<void> {
    await this.transaction('rw', this.events, this.refused, async () => {
      for (const { id, seq } of stored) await this.events.update(id, { held: 0, seq });
      await this.refused.bulkPut([...refused]);
      await this.events.bulkDelete(refused.map((r) => r.id));
    });
  }
}
