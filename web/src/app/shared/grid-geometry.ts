import { computed, signal, type Signal } from '@angular/core';
import type { ValueType } from '../../../../core/sheet/column';
import { decimalsOf } from '../../../../core/values/plain-number';
import type { Cell } from '../../../../core/values/cell';
import type { GridColumn, GridRow } from './grid-source';

export const rowHeight = 28;
export const headHeight = 56;
/** Least and most room for the reason why a row is held. */
const [leastReason, mostReason] = [260, 620];
/** Browsers cap the height of an element; beyond it the rows are scaled to the scroll bar. */
export const mostHeight = 30_000_000;
const spare = 6;
/** Columns are drawn so far beyond what is in sight. */
const aside = 40;
/** Columns come and go by so many: laying a table out anew takes longer than a frame. */
const together = 5;

const numeric = new Set<ValueType>(['integer', 'decimal', 'percent']);

/** How many letters wide a text is: some take more room than others. */
const lettersOf = (text: string): number => text.length + 0.75 * (text.match(/[mwMW@%]/g)?.length ?? 0);

/** Columns that stay in sight take at most this share of the room. */
const mostFrozen = 0.6;

/** Stand for columns that are not drawn: room left and right of those that are scrolled. */
const skippedAt = { before: -9, after: -8 };
export const isSkipped = ({ at }: ShownColumn): boolean => at < 0;

/** A column that is drawn, or the room of some that are not. */
export interface ShownColumn extends GridColumn {
  readonly at: number;
  readonly width: number;
  readonly number: boolean;
  /** Where it stays while others are scrolled; null: it is scrolled too. */
  readonly left: number | null;
}

interface Given {
  readonly rows: Signal<number>;
  readonly columns: Signal<readonly GridColumn[]>;
  /** The rows fetched first: columns are as wide as what stands in them. */
  readonly sample: Signal<readonly GridRow[]>;
  readonly reasons: Signal<boolean>;
  /** Widths that were given, by name, and the last column that stays in sight at the left. */
  readonly layout: Signal<{ readonly widths: Readonly<Record<string, number>>; readonly upTo?: string }>;
  readonly text: (cell: Cell, decimals?: number) => string;
}

/** Where rows and columns of a grid stand, and which of them are in sight. In CSS pixels. */
export class GridGeometry {
  readonly view = signal({ top: 0, left: 0, height: 600, width: 900 });
  constructor(private readonly given: Given) {}

  /** What is in sight goes with the element that scrolls. @returns stops it */
  follow(frame: HTMLElement): () => void {
    const scrolled = () => {
      const { scrollTop: top, scrollLeft: left, clientHeight: height, clientWidth: width } = frame;
      const view = this.view();
      if (view.top !== top || view.left !== left || view.height !== height || view.width !== width) this.view.set({ top, left, height, width });
    };
    const observer = new ResizeObserver(scrolled);
    observer.observe(frame);
    // Not of the template: what that listens to has the whole page looked through, at every frame.
    frame.addEventListener('scroll', scrolled, { passive: true });
    return () => {
      observer.disconnect();
      frame.removeEventListener('scroll', scrolled);
    };
  }

  /** As wide as what stands in it. */
  readonly marginWidth = computed(() => Math.round(Math.min(150, Math.max(66, ...this.given.sample().slice(0, 60).map(({ label }) => label.length * 6.1 + 18)))));
  /** Digits after the point by column: as the sheet says, or else as its first rows have them. */
  readonly decimals = computed(() => {
    const sample = this.given.sample();
    return this.given.columns().map(({ type, decimals }, at) => decimals ?? (type === 'decimal' || type === 'percent' ? decimalsOf(sample.map(({ cells }) => cells[at])) : 0));
  });
  readonly widths = computed(() => {
    const sample = this.given.sample().slice(0, 60);
    const given = this.given.layout().widths;
    return this.given.columns().map((column, at) => {
      if (Object.hasOwn(given, column.name)) return given[column.name];
      // A name stands on two lines where its column is narrow.
      const words = column.name.split(/\s+/).map((word) => word.length * 1.1);
      const name = Math.max(Math.ceil(column.name.length / 2) + 2, ...words) * 1.05;
      const longest = Math.max(name, column.type.length + (column.unit ? column.unit.length + 2 : 0) + (column.misfits ? 12 : 0), ...sample.map((row) => lettersOf(this.given.text(row.cells[at] ?? null, this.decimals()[at]))));
      return Math.round(Math.min(320, Math.max(56, longest * 6.9 + 17)));
    });
  });
  readonly lefts = computed(() => this.widths().reduce<number[]>((sums, width) => [...sums, sums.at(-1)! + width], [0]));
  private readonly columnsWidth = computed(() => this.marginWidth() + this.lefts().at(-1)!);
  /** Reasons have the room that the columns leave. */
  readonly reasonWidth = computed(() => Math.max(leastReason, Math.min(mostReason, this.view().width - this.columnsWidth() - 1)));
  readonly width = computed(() => this.columnsWidth() + (this.given.reasons() ? this.reasonWidth() : 0));
  readonly fullHeight = computed(() => this.given.rows() * rowHeight);
  readonly height = computed(() => Math.min(this.fullHeight(), mostHeight));

  /** How many rows, with their parts, are scrolled away above; beyond the height that browsers bear, scrolling is scaled. */
  private readonly above = computed(() => {
    const { top, height } = this.view();
    const body = Math.max(1, height - headHeight);
    const scale = this.height() > body ? (this.fullHeight() - body) / Math.max(1, this.height() - body) : 1;
    return Math.max(0, (Math.min(top, Math.max(0, this.height() - body)) * scale) / rowHeight);
  });
  readonly firstInSight = computed(() => Math.floor(this.above()));
  readonly range = computed(() => {
    const first = Math.max(0, this.firstInSight() - spare);
    return { first, last: Math.min(this.given.rows(), this.firstInSight() + Math.ceil(this.view().height / rowHeight) + spare) };
  });
  readonly offset = computed(() => Math.max(0, this.view().top - (this.firstInSight() - this.range().first) * rowHeight - (this.fullHeight() > mostHeight ? 0 : this.view().top - this.firstInSight() * rowHeight)));
  /** How many columns stay in sight at the left: as asked, as far as they leave room for others. */
  readonly frozen = computed(() => {
    const asked = this.given.columns().findIndex(({ name }) => name === this.given.layout().upTo) + 1;
    const room = (this.view().width - this.marginWidth()) * mostFrozen;
    let count = asked;
    while (count > 0 && this.lefts()[count] > room) count--;
    return count;
  });
  /** In pixels, beside the margin. */
  readonly frozenWidth = computed(() => this.lefts()[this.frozen()]);
  private readonly columnRange = computed(() => {
    const lefts = this.lefts();
    const { left, width } = this.view();
    const count = this.given.columns().length;
    const frozen = this.frozen();
    let first = frozen;
    while (first < count && lefts[first + 1] < left + lefts[frozen] - aside) first++;
    let last = first;
    while (last < count && lefts[last] < left + width + aside) last++;
    return { first: Math.max(frozen, Math.floor(first / together) * together), last: Math.min(count, Math.ceil(last / together) * together) };
  }, { equal: (a, b) => a.first === b.first && a.last === b.last });
  /** The columns that are drawn, and between them the width of those that are not, from left to right. */
  readonly shown = computed((): readonly ShownColumn[] => {
    const { first, last } = this.columnRange();
    const [frozen, lefts, columns] = [this.frozen(), this.lefts(), this.given.columns()];
    const skipped = (at: number, from: number, to: number): ShownColumn[] => (lefts[to] > lefts[from] ? [{ name: '', type: 'text', at, width: lefts[to] - lefts[from], number: false, left: null }] : []);
    const drawn = (from: number, to: number) => columns.slice(from, to).map((column, i): ShownColumn => this.drawn(column, from + i, i + from < frozen));
    return [...drawn(0, frozen), ...skipped(skippedAt.before, frozen, first), ...drawn(first, last), ...skipped(skippedAt.after, last, columns.length)];
  });
  private drawn(column: GridColumn, at: number, frozen: boolean): ShownColumn {
    return { ...column, at, width: this.widths()[at], number: numeric.has(column.type), left: frozen ? this.marginWidth() + this.lefts()[at] : null };
  }

  /** Where to scroll so that a row stands in the upper part; none where it is in sight. */
  topFor(row: number, frameHeight: number): number | undefined {
    const body = frameHeight - headHeight;
    if (row >= this.firstInSight() && row + 1 <= this.above() + body / rowHeight + 0.01) return undefined;
    const scale = this.height() > body ? Math.max(1, this.height() - body) / Math.max(1, this.fullHeight() - body) : 1;
    return Math.max(0, (row * rowHeight - body / 3) * scale);
  }
}
