import { effect, signal } from '@angular/core';

/** What it is told of the pipeline. */
export interface Applying {
  /** The version that is saved. */
  readonly version: () => number | undefined;
  readonly saving: () => boolean;
  readonly running: () => boolean;
  /** The document is another than the last refresh went by. */
  readonly changedSince: () => boolean;
  readonly refresh: () => void;
}

/**
 * Lets an answer count at once: as soon as it is saved a refresh is started. Not so where something else was changed since the last
 * refresh: whoever works on the steps refreshes when they are done.
 */
export class AppliedAtOnce {
  /** The version that an answer under way changes. */
  private readonly changing = signal<number | undefined>(undefined);
  /** The last version that differs from the one last refreshed by answers alone. */
  private answered: number | undefined;
  /** No other question waits: the refresh is due as soon as the answer is saved. */
  private readonly due = signal(false);

  /** To be made where effects may be made. */
  constructor(private readonly of: Applying) {
    effect(() => {
      const changing = this.changing();
      const version = of.version();
      if (changing === undefined || version === changing || of.saving()) return;
      this.answered = version;
      this.changing.set(undefined);
    });
    effect(() => {
      if (!this.due() || this.changing() !== undefined || of.saving() || of.running()) return;
      this.due.set(false);
      of.refresh();
    });
  }

  /** An answer is about to be saved. @param more another question waits for one */
  answers(more: boolean) {
    const version = this.of.version();
    const byAnswersAlone = !this.of.changedSince() || version === this.answered || version === this.changing();
    if (!byAnswersAlone) return;
    this.changing.set(version);
    this.due.set(!more);
  }
}
