import { signal } from '@angular/core';
import type { Observable, Subscription } from 'rxjs';
import { noteSentence, type RunNote } from '../../../../core/runs/run';
import type { RunEvent, RunProgress } from '../../../../server/contract/contract';

/** How a run is started, followed and ended; see `Api`. */
export interface RunSource {
  start(letGo: boolean): Observable<{ run: number }>;
  follow(run: number): Observable<RunEvent>;
  cancel(run: number): Observable<unknown>;
}

/** How the last run ended. */
export interface RunEnd {
  readonly state: string;
  readonly message: string;
  /** It was refused as many reports are gone, and may be told to let them go. */
  readonly canLetGo?: boolean;
  /** Reports wait for an answer. */
  readonly needsAnswer?: boolean;
  /** Reports wait, checks fail or totals are off: it is among what needs the analyst. */
  readonly isWrong?: boolean;
}

/** Does a note say what is wrong with rows that are in the dataset? */
const saysWrong = (note: RunNote): boolean => note.kind === 'waiting' || (note.kind === 'wrong within' && note.checks.length > 0) || note.kind === 'check' || (note.kind === 'totals' && note.ties.off > 0);


/** A refresh under way, from its start to what it says at its end. */
export class RunFollowed {
  readonly now = signal<RunProgress | undefined>(undefined);
  /** When it was started or met, by the clock of the page, ms. */
  readonly started = signal(0);
  readonly ended = signal<RunEnd | undefined>(undefined);
  private following: Subscription | undefined;

  /** @param over told once a run has ended, however */
  constructor(
    private readonly source: RunSource,
    private readonly over: () => void,
  ) {}

  /** @param letGo reports that are gone from the folder may leave the dataset, however many */
  start(letGo = false) {
    this.ended.set(undefined);
    this.source.start(letGo).subscribe({
      next: ({ run }) => this.follow(run),
      error: (error: Error) => this.ended.set({ state: 'failed', message: error.message }),
    });
  }

  follow(run: number) {
    this.started.set(performance.now());
    this.now.set({ run, done: 0, total: 0, now: { kind: 'folder' } });
    this.following?.unsubscribe();
    this.following = this.source.follow(run).subscribe({
      next: (event) => {
        if (event.kind === 'progress') this.now.set(event);
        else this.end({ state: event.state, message: event.notes.map(noteSentence).join(' '), canLetGo: event.notes.some(({ kind }) => kind === 'many gone'), needsAnswer: event.notes.some((note) => note.kind === 'differences' && note.differences.some(({ holds, stopped }) => holds && !stopped)), isWrong: event.notes.some(saysWrong) });
      },
      error: (error: Error) => this.end({ state: 'failed', message: error.message, canLetGo: false }),
    });
  }

  private end(end: RunEnd) {
    this.now.set(undefined);
    this.ended.set(end);
    this.over();
  }

  cancel() {
    const run = this.now();
    // What cannot be cancelled goes on, and is followed as before.
    if (run) this.source.cancel(run.run).subscribe({ error: () => undefined });
  }

  close() {
    this.following?.unsubscribe();
  }
}
