import { isStale, type Diagram, type Draft } from '../api/client';
import { change, historyOf, redo, undo, type History } from './history';
import type { KeptDrafts } from './kept';

/** How long after the last letter a draft is saved, and after a failure tried again, in ms. */
const delay = 500;
const again = 4000;

export type SaveState = 'saved' | 'unsaved' | 'saving';

/** What a session asks of the server. */
export interface DraftServer {
  save: (draft: Draft, version: number, closing: boolean) => Promise<Diagram>;
  keep: (version: number) => Promise<Diagram>;
  read: () => Promise<Diagram>;
}

/** What an editor shows of a draft. */
export interface DraftView {
  draft: Draft;
  canUndo: boolean;
  canRedo: boolean;
  state: SaveState;
  /** The diagram as it is on disk. */
  saved: Diagram;
  /** The draft is being made a version. */
  keeping: boolean;
  error: Error | null;
  /** What was saved elsewhere meanwhile; nothing is saved before one of the two is chosen. */
  theirs: Diagram | null;
}

/**
 * A diagram's draft while it is edited: with undo, and saved while it is typed, mistakes included,
 * over the version that was read.
 */
export class DraftSession {
  private history: History<Draft>;
  private saved: Diagram;
  private saving = 0;
  private keeping = false;
  private error: Error | null = null;
  private theirs: Diagram | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** The end of what was asked of the server so far. */
  private acting: Promise<unknown> = Promise.resolve();
  private readonly listeners = new Set<() => void>();
  private view: DraftView;

  /** `onSaved` is told of every diagram that the server has stored. */
  constructor(
    diagram: Diagram,
    history: History<Draft> | undefined,
    private readonly server: DraftServer,
    private readonly kept: Pick<KeptDrafts, 'keep'>,
    private readonly onSaved: (d: Diagram) => void,
  ) {
    this.saved = diagram;
    this.history = history ?? historyOf(diagram.draft);
    this.view = this.makeView();
    // What came back from this browser may be ahead of what the server has.
    if (this.dirty()) this.soon(delay);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  snapshot = (): DraftView => this.view;

  /** Changes the draft; `at` names the field that is typed in, '' for a step of its own. */
  set = (next: (d: Draft) => Draft, at = ''): void => {
    this.go(change(this.history, next(this.history.present.value), at, Date.now()));
  };

  undo = (): void => this.go(undo(this.history));

  redo = (): void => this.go(redo(this.history));

  /** Saves the draft and makes it a version. It tells whether that was done. */
  keep = async (): Promise<boolean> => {
    clearTimeout(this.timer);
    this.keeping = true;
    this.notify();
    const done = await this.inTurn(async () => {
      if (this.dirty()) this.store(await this.save());
      this.store(await this.server.keep(this.saved.version));
    });
    this.keeping = false;
    this.settle();
    return done;
  };

  /** Saves this draft over what was saved elsewhere. */
  keepMine = (): void => {
    if (this.theirs) this.saved = this.theirs;
    this.theirs = null;
    this.write();
  };

  /** Takes what was saved elsewhere instead. It can be undone. */
  takeTheirs = (): void => {
    const { theirs } = this;
    this.theirs = null;
    if (!theirs) return;
    this.store(theirs);
    this.set(() => theirs.draft);
  };

  /**
   * Saves at once what is not saved yet, because the editor is left. Where the page is closed too,
   * nothing can be waited for: a draft that cannot be sent any more comes back from this browser.
   */
  leave(closing: boolean): void {
    clearTimeout(this.timer);
    if (!this.dirty() || this.theirs) return;
    if (!closing) return this.write();
    const { draft, saved } = this.view;
    // One that is on its way raises the version by one.
    void this.server.save(draft, saved.version + (this.saving > 0 ? 1 : 0), true).then(
      (d) => this.store(d),
      () => {},
    );
  }

  private go(next: History<Draft>): void {
    if (next === this.history) return;
    this.history = next;
    void this.kept.keep(this.saved.id, next);
    this.notify();
    if (!this.theirs) this.soon(delay);
  }

  private soon(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.write(), ms);
  }

  /** Saves what is not saved, after what is on its way. */
  private write(): void {
    clearTimeout(this.timer);
    void this.inTurn(async () => {
      if (this.dirty()) this.store(await this.save());
    }).then(() => this.settle());
  }

  private async save(): Promise<Diagram> {
    this.saving++;
    this.notify();
    try {
      return await this.server.save(this.history.present.value, this.saved.version, false);
    } finally {
      this.saving--;
    }
  }

  /** Plans the next save, where one is still needed. */
  private settle(): void {
    this.notify();
    if (this.dirty() && !this.theirs) this.soon(this.error ? again : delay);
  }

  /** Runs what asks the server one after the other, and tells whether it went through. */
  private inTurn(act: () => Promise<void>): Promise<boolean> {
    const done = this.acting.then(async () => {
      if (this.theirs) return false;
      try {
        await act();
        this.error = null;
        return true;
      } catch (e) {
        await this.failed(e as Error);
        return false;
      }
    });
    this.acting = done;
    return done;
  }

  private async failed(e: Error): Promise<void> {
    if (!isStale(e)) {
      this.error = e;
      return;
    }
    try {
      this.theirs = await this.server.read();
      this.error = null;
    } catch (unread) {
      this.error = unread as Error;
    }
  }

  private store(d: Diagram): void {
    // Where the page was not closed after all, two answers may have crossed.
    if (d.version < this.saved.version && d.id === this.saved.id) return;
    this.saved = d;
    this.onSaved(d);
    this.notify();
  }

  private dirty(): boolean {
    const { value } = this.history.present;
    return value !== this.saved.draft && JSON.stringify(value) !== JSON.stringify(this.saved.draft);
  }

  private makeView(): DraftView {
    const { past, present, future } = this.history;
    return {
      draft: present.value,
      canUndo: past.length > 0,
      canRedo: future.length > 0,
      state: this.saving > 0 ? 'saving' : this.dirty() ? 'unsaved' : 'saved',
      saved: this.saved,
      keeping: this.keeping,
      error: this.error,
      theirs: this.theirs,
    };
  }

  private notify(): void {
    this.view = this.makeView();
    this.listeners.forEach((f) => f());
  }
}
