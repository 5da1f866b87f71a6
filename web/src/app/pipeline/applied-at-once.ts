import { effect, signal } from '@angular/core';

/** What it is told of the pipeline. */
export interface Applying {
  /** The version that is saved. */
  readonly version: () => number | undefined;
  readonly saving: () => boolean;
  readonly running: () => boolean;
  /** Something else than answers was changed since the last refresh. */
  readonly edited: () => boolean;
  readonly refresh: () => void;
}

/**
 * Lets an answer count at once: as soon as it is saved a refresh is started. Not so where something else was changed since the last
 * refresh: whoever works on the steps refreshes when they are done.
 */
export class AppliedAtOnce {
  /** The version that an answer under way changes. */
  private readonly changing = signal<number | undefined>(undefined);
  private readonly due = signal(false);

  /** To be made where effects may be made. */
  constructor(private readonly of: Applying) {
    effect(() => {
      if (!this.due() || this.of.version() === this.changing() || this.of.saving() || this.of.running()) return;
      this.due.set(false);
      this.of.refresh();
    });
  }

  /** An answer is about to be saved, and no other question waits for one. */
  soon() {
    if (this.of.edited()) return;
    this.changing.set(this.of.version());
    this.due.set(true);
  }
}
