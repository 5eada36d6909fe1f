import Dexie, { type Table } from 'dexie';
import type { Draft } from '../../api/client';

/** A draft with what undo and redo lead to. */
export interface Stack {
  past: Draft[];
  present: Draft;
  future: Draft[];
}

class Stacks extends Dexie {
  stacks!: Table<Stack & { diagram: string; touched: number }, string>;

  constructor() {
    super('cressa-drafts');
    this.version(1).stores({ stacks: 'diagram, touched' });
  }
}

const store = new Stacks();

/** How many diagrams keep their stack in this browser. */
const most = 40;

/** Keeps the stack of a diagram. Undo is a comfort: where the browser keeps nothing it ends here. */
export async function keepStack(diagram: string, stack: Stack): Promise<void> {
  try {
    await store.stacks.put({ ...stack, diagram, touched: Date.now() });
    const old = await store.stacks.orderBy('touched').reverse().offset(most).primaryKeys();
    await store.stacks.bulkDelete(old);
  } catch {
    // A private window may refuse; the draft itself is saved by the server.
  }
}

/**
 * The stack that was kept for a diagram, if it leads to the draft that the server has: as its
 * present, or among the last steps where the page was closed before the last was saved.
 */
export async function keptStack(diagram: string, saved: Draft): Promise<Stack | undefined> {
  try {
    const stack = await store.stacks.get(diagram);
    const text = JSON.stringify(saved);
    const near = stack && [stack.present, ...stack.past.slice(-5)];
    return near?.some((d) => JSON.stringify(d) === text) ? stack : undefined;
  } catch {
    return undefined;
  }
}
