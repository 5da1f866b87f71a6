import { computed, signal, type Signal } from '@angular/core';
import type { ValueType } from '../../../../core/sheet/column';
import { decimalsOf } from '../../../../core/values/plain-number';
import type { Cell } from '../../../../core/values/cell';
import type { GridColumn, GridRow } from './grid-source';

export const rowHeight = 28;
export const headHeight = 56;
export const reasonWidth = 260;
/** Browsers cap the height of an element; beyond it the rows are scaled to the scroll bar. */
export const mostHeight = 30_000_000;
const spare = 6;
/** Columns are drawn so far beyond what is in sight. */
const aside = 40;
/** Columns come and go by so many: laying a table out anew takes longer than a frame. */
const together = 5;

const numeric = new Set<ValueType>(['integer', 'decimal', 'percent']);

interface Given {
  readonly rows: Signal<number>;
  readonly columns: Signal<readonly GridColumn[]>;
  /** The rows fetched first: columns are as wide as what stands in them. */
  readonly sample: Signal<readonly GridRow[]>;
  readonly reasons: Signal<boolean>;
  readonly text: (cell: Cell, decimals?: number) => string;
}

/** Where rows and columns of a grid stand, and which of them are in sight. In CSS pixels. */
export class GridGeometry {
  readonly view = signal({ top: 0, left: 0, height: 600, width: 900 });
  constructor(private readonly given: Given) {}

  /** As wide as what stands in it. */
  readonly marginWidth = computed(() => Math.round(Math.min(150, Math.max(66, ...this.given.sample().slice(0, 60).map(({ label }) => label.length * 6.1 + 18)))));
  /** Digits after the point by column: as the sheet says, or else as its first rows have them. */
  readonly decimals = computed(() => {
    const sample = this.given.sample();
    return this.given.columns().map(({ type, decimals }, at) => decimals ?? (type === 'decimal' || type === 'percent' ? decimalsOf(sample.map(({ cells }) => cells[at])) : 0));
  });
  readonly widths = computed(() => {
    const sample = this.given.sample().slice(0, 60);
    return this.given.columns().map((column, at) => {
      // A name stands on two lines where its column is narrow.
      const words = column.name.split(/\s+/).map((word) => word.length);
      const name = Math.max(Math.ceil(column.name.length / 2) + 2, ...words) * 1.05;
      const longest = Math.max(name, column.type.length + (column.unit ? column.unit.length + 2 : 0) + (column.misfits ? 12 : 0), ...sample.map((row) => this.given.text(row.cells[at] ?? null, this.decimals()[at]).length));
      return Math.round(Math.min(320, Math.max(56, longest * 6.9 + 17)));
    });
  });
  readonly lefts = computed(() => this.widths().reduce<number[]>((sums, width) => [...sums, sums.at(-1)! + width], [0]));
  readonly width = computed(() => this.marginWidth() + this.lefts().at(-1)! + (this.given.reasons() ? reasonWidth : 0));
  readonly fullHeight = computed(() => this.given.rows() * rowHeight);
  readonly height = computed(() => Math.min(this.fullHeight(), mostHeight));

  /** First row in sight; above the height that browsers bear, scrolling is scaled. */
  readonly firstInSight = computed(() => {
    const { top, height } = this.view();
    const body = Math.max(1, height - headHeight);
    const scale = this.height() > body ? (this.fullHeight() - body) / Math.max(1, this.height() - body) : 1;
    return Math.max(0, Math.floor((Math.min(top, Math.max(0, this.height() - body)) * scale) / rowHeight));
  });
  readonly range = computed(() => {
    const first = Math.max(0, this.firstInSight() - spare);
    return { first, last: Math.min(this.given.rows(), this.firstInSight() + Math.ceil(this.view().height / rowHeight) + spare) };
  });
  readonly offset = computed(() => Math.max(0, this.view().top - (this.firstInSight() - this.range().first) * rowHeight - (this.fullHeight() > mostHeight ? 0 : this.view().top - this.firstInSight() * rowHeight)));
  readonly columnRange = computed(() => {
    const lefts = this.lefts();
    const { left, width } = this.view();
    const count = this.given.columns().length;
    let first = 0;
    while (first < count && lefts[first + 1] < left - aside) first++;
    let last = first;
    while (last < count && lefts[last] < left + width + aside) last++;
    return { first: Math.floor(first / together) * together, last: Math.min(count, Math.ceil(last / together) * together) };
  }, { equal: (a, b) => a.first === b.first && a.last === b.last });
  readonly shown = computed(() => {
    const { first, last } = this.columnRange();
    return this.given
      .columns()
      .slice(first, last)
      .map((column, i) => ({ ...column, at: first + i, width: this.widths()[first + i], number: numeric.has(column.type), decimals: this.decimals()[first + i] }));
  });
  readonly before = computed(() => this.lefts()[this.columnRange().first]);
  readonly after = computed(() => this.lefts().at(-1)! - this.lefts()[this.columnRange().last]);

  /** Where to scroll so that a row stands in the upper part; none where it is in sight. */
  topFor(row: number, frameHeight: number): number | undefined {
    const body = frameHeight - headHeight;
    const first = this.firstInSight();
    if (row >= first && row < first + Math.floor(body / rowHeight)) return undefined;
    const scale = this.height() > body ? Math.max(1, this.height() - body) / Math.max(1, this.fullHeight() - body) : 1;
    return Math.max(0, (row * rowHeight - body / 3) * scale);
  }
}
