import Dexie, { type Table } from 'dexie';
import type { Draft } from '../api/client';
import { change, historyOf, type History, type Step } from './history';

/** A step of a diagram's history. */
interface KeptStep {
  diagram: string;
  no: number;
  draft: Draft;
}

/** Where a diagram's history stands. */
interface Head {
  diagram: string;
  /** The number of the present step. */
  at: number;
  /** In ms since 1970. */
  touched: number;
}

/** A history as versions of this database before the second kept it: as a whole. */
interface OldStack {
  diagram: string;
  touched: number;
  past: Draft[];
  present: Draft;
  future: Draft[];
}

/** How many diagrams keep their history in this browser. */
const most = 40;
/** A page that was closed in the middle of typing is some steps ahead of the server. */
const ahead = 5;

/**
 * Undo, kept in the browser's database so that it survives a reload: a row for every step, so that
 * a letter writes one draft however many steps there are. Undo is a comfort: where the browser
 * keeps nothing it ends with the page.
 */
export class KeptDrafts extends Dexie {
  steps!: Table<KeptStep, [string, number]>;
  heads!: Table<Head, string>;
  /** What of each diagram is in the database, and what should be. */
  private readonly stored = new Map<string, History<Draft>>();
  private readonly wanted = new Map<string, History<Draft>>();
  private writing: Promise<void> = Promise.resolve();

  constructor(name = 'cressa-drafts') {
    super(name);
    this.version(1).stores({ stacks: 'diagram, touched' });
    this.version(2)
      .stores({ stacks: null, steps: '[diagram+no], diagram', heads: 'diagram, touched' })
      .upgrade(async (tx) => {
        for (const s of await tx.table<OldStack>('stacks').toArray()) {
          const all = [...s.past, s.present, ...s.future];
          await tx
            .table<KeptStep>('steps')
            .bulkPut(all.map((draft, no) => ({ diagram: s.diagram, no, draft })));
          const head: Head = { diagram: s.diagram, at: s.past.length, touched: s.touched };
          await tx.table<Head>('heads').put(head);
        }
      });
  }

  /**
   * The history that was kept of a diagram, if it leads to the draft that the server has: as its
   * present, or among the last steps where the page was closed before the last was saved.
   */
  async read(diagram: string, saved: Draft): Promise<History<Draft> | undefined> {
    try {
      await this.writing;
      const head = await this.heads.get(diagram);
      if (!head) return undefined;
      const rows = await this.steps.where('diagram').equals(diagram).sortBy('no');
      const steps = rows.map((r): Step<Draft> => ({ no: r.no, value: r.draft }));
      const present = steps.find((s) => s.no === head.at);
      if (!present) return undefined;
      const past = steps.filter((s) => s.no < head.at);
      const text = JSON.stringify(saved);
      const near = [present, ...past.slice(-ahead)];
      if (!near.some((s) => JSON.stringify(s.value) === text)) return undefined;
      const future = steps.filter((s) => s.no > head.at);
      const history: History<Draft> = { past, present, future, at: '', when: 0 };
      this.stored.set(diagram, history);
      return history;
    } catch {
      return undefined;
    }
  }

  /** Keeps a history. Only what differs from what is kept is written, one write at a time. */
  keep(diagram: string, history: History<Draft>): Promise<void> {
    this.wanted.set(diagram, history);
    this.writing = this.writing.then(async () => {
      const next = this.wanted.get(diagram);
      // Written already, together with an earlier one.
      if (!next) return;
      this.wanted.delete(diagram);
      await this.write(diagram, next).catch(() => {
        // A private window may refuse; the draft itself is saved by the server.
      });
    });
    return this.writing;
  }

  /** Adds a draft as a step after the one that the server had. */
  async append(diagram: string, before: Draft, after: Draft): Promise<void> {
    const history = (await this.read(diagram, before)) ?? historyOf(before);
    await this.keep(diagram, change(history, after, '', 0));
  }

  private async write(diagram: string, next: History<Draft>): Promise<void> {
    const before = this.stored.get(diagram);
    const had = new Map(before && stepsOf(before).map((s) => [s.no, s]));
    const has = stepsOf(next);
    const fresh = has.filter((s) => had.get(s.no) !== s);
    for (const s of has) had.delete(s.no);
    await this.transaction('rw', this.steps, this.heads, async () => {
      // Where it is not known what lies there, nothing of it stays.
      if (!before) await this.steps.where('diagram').equals(diagram).delete();
      await this.steps.bulkDelete([...had.keys()].map((no) => [diagram, no]));
      await this.steps.bulkPut(fresh.map((s) => ({ diagram, no: s.no, draft: s.value })));
      await this.heads.put({ diagram, at: next.present.no, touched: Date.now() });
      const old = await this.heads.orderBy('touched').reverse().offset(most).primaryKeys();
      await this.heads.bulkDelete(old);
      await this.steps.where('diagram').anyOf(old).delete();
      old.forEach((o) => this.stored.delete(o));
    });
    this.stored.set(diagram, next);
  }
}

const stepsOf = (h: History<Draft>): Step<Draft>[] => [...h.past, h.present, ...h.future];
