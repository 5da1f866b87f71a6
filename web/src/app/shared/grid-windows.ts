import { signal } from '@angular/core';
import type { Subscription } from 'rxjs';
import type { GridRow, GridSource } from './grid-source';

/** Rows of one window. */
export const pageRows = 100;
/** Windows kept, those fetched last. */
const keptPages = 40;

/** Rows of a sheet as they are fetched, window by window. */
export class GridWindows {
  readonly pages = signal<ReadonlyMap<number, readonly GridRow[]>>(new Map());
  /** The rows that came first: they tell how wide columns are, however far is scrolled. */
  readonly first = signal<readonly GridRow[]>([]);
  readonly failure = signal<string | undefined>(undefined);
  private fetching = new Map<number, Subscription>();

  /** A row, if it is there. */
  row = (at: number): GridRow | undefined => this.pages().get(Math.floor(at / pageRows))?.[at % pageRows];

  /** @param first the first rows, where they are there already */
  startAnew(first: readonly GridRow[] = []) {
    this.stop();
    this.pages.set(first.length > 0 ? new Map([[0, first]]) : new Map());
    this.first.set(first);
    this.failure.set(undefined);
  }

  stop() {
    for (const each of this.fetching.values()) each.unsubscribe();
    this.fetching = new Map();
  }

  /** Fetches what lacks of the rows from `first` to before `last`. What has scrolled out of sight before it came is not waited for. */
  fetch(source: GridSource, first: number, last: number) {
    for (const [other, subscription] of this.fetching)
      if ((other + 1) * pageRows < first || other * pageRows > last) {
        subscription.unsubscribe();
        this.fetching.delete(other);
      }
    for (let page = Math.floor(first / pageRows); page * pageRows < last; page++) if (!this.pages().has(page) && !this.fetching.has(page)) this.fetchPage(source, page);
  }

  private fetchPage(source: GridSource, page: number) {
    let done = false;
    const subscription = source.fetch(page * pageRows, pageRows).subscribe({
      next: (rows) => {
        done = true;
        this.fetching.delete(page);
        if (this.pages().size === 0) this.first.set(rows);
        this.pages.update((pages) => new Map([...[...pages].slice(-keptPages), [page, rows]]));
      },
      error: (error: Error) => {
        done = true;
        this.fetching.delete(page);
        this.failure.set(error.message);
      },
    });
    // One that was answered at once is not waited for.
    if (!done) this.fetching.set(page, subscription);
  }
}
