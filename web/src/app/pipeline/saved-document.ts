import { computed, signal } from '@angular/core';
import { catchError, concatMap, defer, EMPTY, finalize, Subject, tap, timer, type Observable, type Subscription } from 'rxjs';
import { changesBetween, type Change } from '../../../../core/pipeline/changes';
import { parsePipeline, type Pipeline } from '../../../../core/pipeline/document';
import type { PipelineFull } from '../../../../server/contract/contract';
import { ApiFailure } from '../api';

/** Changes of one setting that follow within so many milliseconds are one change to undo. */
const typingPause = 1200;

/** Milliseconds after which a save is tried again that the server was not there for. */
export const awayPause = 2000;

/** A save that met a version of somebody else: what each changed in the version that both came from. */
export interface Conflict {
  readonly theirs: PipelineFull;
  readonly theirChanges: readonly Change[];
  readonly myChanges: readonly Change[];
}

/** How the document is saved and asked for; see `Api`. */
export interface DocumentStore {
  save(document: Pipeline, version: number): Observable<PipelineFull>;
  current(): Observable<PipelineFull>;
}

/** The document of a pipeline: changed here, saved at once as a new version, undone and redone. Nothing of another tab is written over unseen. */
export class SavedDocument {
  private readonly now = signal<Pipeline | undefined>(undefined);
  private readonly full = signal<PipelineFull | undefined>(undefined);
  private readonly undoable = signal<readonly Pipeline[]>([]);
  private readonly redoable = signal<readonly Pipeline[]>([]);
  private readonly saves = new Subject<Pipeline>();
  private savedLast: Pipeline | undefined;
  private lastChange = { of: '', at: 0 };

  readonly document = this.now.asReadonly();
  /** The pipeline as it was saved last. */
  readonly saved = this.full.asReadonly();
  readonly saving = signal(false);
  /** Why the last change could not be saved. */
  readonly refused = signal<string | undefined>(undefined);
  readonly conflict = signal<Conflict | undefined>(undefined);
  /** What was changed here is not on the server yet. */
  readonly unsaved = computed(() => this.saving() || this.refused() !== undefined);
  readonly canUndo = computed(() => this.undoable().length > 0);
  readonly canRedo = computed(() => this.redoable().length > 0);

  constructor(private readonly store: DocumentStore) {}

  /** Saves what is changed from now on, one version after the other; a document that was changed again meanwhile is passed over. */
  keepSaving(saved: (full: PipelineFull, before: Pipeline) => void): Subscription {
    return this.saves.pipe(concatMap((document) => defer(() => (document === this.now() && document !== this.savedLast ? this.save(document, saved) : EMPTY)))).subscribe();
  }

  private save(document: Pipeline, saved: (full: PipelineFull, before: Pipeline) => void): Observable<unknown> {
    const before = this.full()!;
    this.saving.set(true);
    return this.store.save(document, before.version).pipe(
      tap((full) => {
        this.full.set(full);
        this.savedLast = document;
        this.refused.set(undefined);
        saved(full, parsePipeline(before.document));
      }),
      catchError((error: Error) => {
        this.refused.set(error.message);
        if (!(error instanceof ApiFailure)) return EMPTY;
        if (error.kind === 'away') return this.tryAgain();
        return error.kind === 'changed meanwhile' ? this.compare(parsePipeline(before.document), document) : EMPTY;
      }),
      finalize(() => this.saving.set(false)),
    );
  }

  /** What is written by then is saved once the server is back. */
  private tryAgain(): Observable<unknown> {
    this.refused.update((because) => `${because} It is tried again.`);
    return timer(awayPause).pipe(tap(() => this.saves.next(this.now()!)));
  }

  private compare(base: Pipeline, mine: Pipeline): Observable<unknown> {
    return this.store.current().pipe(
      tap((theirs) => this.conflict.set({ theirs, theirChanges: changesBetween(base, parsePipeline(theirs.document)), myChanges: changesBetween(base, mine) })),
      catchError(() => EMPTY),
    );
  }

  /** The document as it is on the server now. */
  set(full: PipelineFull) {
    this.full.set(full);
    this.now.set(parsePipeline(full.document));
  }

  /** What else is known of the pipeline, with its version; what is being written here stays. */
  update(full: PipelineFull) {
    if (full.version === this.full()?.version) this.full.set(full);
  }

  /** Goes on with the version of the other; what was changed here can be had back by undo. */
  takeTheirs() {
    const { theirs } = this.conflict()!;
    const mine = this.now()!;
    this.undoable.update((list) => [...list, mine]);
    this.redoable.set([]);
    this.settle();
    this.set(theirs);
  }

  /** Saves what was changed here on top; the version of the other stays in the list. */
  keepMine() {
    this.full.set(this.conflict()!.theirs);
    this.settle();
    this.saves.next(this.now()!);
  }

  private settle() {
    this.conflict.set(undefined);
    this.refused.set(undefined);
  }

  /**
   * Changes the document; it is saved at once and can be undone.
   * @param of what is being written: changes of the same within a moment are undone together
   */
  change(next: Pipeline, of = '') {
    const before = this.now();
    if (!before || JSON.stringify(before) === JSON.stringify(next)) return;
    const at = performance.now();
    const goesOn = of !== '' && of === this.lastChange.of && at - this.lastChange.at < typingPause && this.canUndo();
    this.lastChange = { of, at };
    if (!goesOn) this.undoable.update((list) => [...list.slice(-99), before]);
    this.redoable.set([]);
    this.put(next);
  }

  undo() {
    const to = this.undoable().at(-1);
    const now = this.now();
    if (!to || !now) return;
    this.lastChange = { of: '', at: 0 };
    this.undoable.update((list) => list.slice(0, -1));
    this.redoable.update((list) => [...list, now]);
    this.put(to);
  }

  redo() {
    const to = this.redoable().at(-1);
    const now = this.now();
    if (!to || !now) return;
    this.redoable.update((list) => list.slice(0, -1));
    this.undoable.update((list) => [...list, now]);
    this.put(to);
  }

  private put(document: Pipeline) {
    this.now.set(document);
    this.saves.next(document);
  }
}
