import { Component, computed, effect, ElementRef, inject, input, output, signal, untracked, viewChild, DestroyRef } from '@angular/core';
import type { Observable } from 'rxjs';
import { cellText, isError, type Cell } from '../../../../core/values/cell';
import { decimalsOf } from '../../../../core/values/plain-number';
import { GridBrackets, type Brackets } from './grid-brackets';
import { GridWindows } from './grid-windows';
import type { ValueType } from '../../../../core/sheet/column';

export interface GridColumn {
  readonly name: string;
  readonly type: ValueType;
  readonly unit?: string;
  readonly misfits?: number;
  /** Digits after the point that the column has: its numbers are shown with all of them. */
  readonly decimals?: number;
}

export interface GridRow {
  /** What stands in the row's margin. */
  readonly label: string;
  readonly cells: readonly Cell[];
  /** Why the row was held. */
  readonly reason?: string;
}

export interface GridCellPlace {
  readonly row: number;
  readonly column: number;
}

/** Where rows come from, window by window. A new source starts the grid anew. */
export interface GridSource {
  readonly rows: number;
  readonly columns: readonly GridColumn[];
  fetch(start: number, count: number): Observable<readonly GridRow[]>;
}

const rowHeight = 28;
/** Browsers cap the height of an element; beyond it the rows are scaled to the scroll bar. */
const mostHeight = 30_000_000;
const spare = 6;

const numeric = new Set<ValueType>(['integer', 'decimal', 'percent']);

/** A sheet by windows: any number of rows, only those in sight are fetched and drawn; so for columns. */
@Component({
  selector: 'sieve-grid',
  imports: [GridBrackets],
  template: `
    <div class="frame" #frame (scroll)="scrolled()" (keydown)="key($event)" tabindex="0" role="group" [attr.aria-label]="label()">
      <div [style.height.px]="headHeight + height()" [style.width.px]="width()" class="extent">
        @if (bracketsShown()) {
          <sieve-grid-brackets [rows]="source().rows" [ends]="brackets()!" [top]="headHeight" [rowHeight]="rowHeight" [frame]="frame" [draft]="draft()" (draftChange)="draft.set($event)" (set)="bracketed.emit($event)" />
        }
        <table role="grid" [attr.aria-rowcount]="source().rows + 1" [attr.aria-colcount]="source().columns.length + 1" [attr.aria-label]="label()" [style.width.px]="width()">
          <colgroup>
            <col [style.width.px]="marginWidth()" />
            @if (before() > 0) {
              <col [style.width.px]="before()" />
            }
            @for (column of shown(); track column.at) {
              <col [style.width.px]="column.width" />
            }
            @if (after() > 0) {
              <col [style.width.px]="after()" />
            }
            @if (reasons()) {
              <col [style.width.px]="reasonWidth" />
            }
          </colgroup>
          <thead>
            <tr>
              <th scope="col" class="margin">{{ margin() }}</th>
              @if (before() > 0) {
                <td class="skipped"></td>
              }
              @for (column of shown(); track column.at) {
                <th scope="col" [class.number]="column.number" [title]="column.name" [attr.aria-colindex]="column.at + 2">
                  <span class="name">{{ column.name }}</span><small>{{ column.type }}{{ column.unit ? ', ' + column.unit : '' }}@if (column.misfits) {<span class="error">, {{ column.misfits }} {{ column.misfits === 1 ? 'misfit' : 'misfits' }}</span>}</small>
                </th>
              }
              @if (after() > 0) {
                <td class="skipped"></td>
              }
              @if (reasons()) {
                <th scope="col">Why held<small>reason</small></th>
              }
            </tr>
          </thead>
          <tbody>
            <tr [style.height.px]="offset()" class="space" aria-hidden="true"><td [attr.colspan]="shown().length + 3"></td></tr>
            @for (row of drawn(); track row.at) {
              <tr [class.chosen]="row.at === chosen()?.row" [class.outside]="isOutside(row.at)" [attr.aria-rowindex]="row.at + 2">
                <th scope="row" class="margin">{{ row.data?.label ?? '' }}</th>
                @if (before() > 0) {
                  <td class="skipped"></td>
                }
                @for (column of shown(); track column.at) {
                  @let cell = row.data?.cells?.[column.at];
                  <td
                    [class.number]="column.number"
                    [class.blank]="row.data && (cell === null || cell === '')"
                    [class.misfit]="cell !== undefined && isError(cell)"
                    [class.current]="row.at === chosen()?.row && column.at === chosen()?.column"
                    [attr.title]="cell === undefined ? null : isError(cell) ? 'expected ' + cell.expected : whole(cell)"
                    (click)="choose.emit({ row: row.at, column: column.at })"
                  >{{ cell === undefined ? '' : text(cell, column.decimals) }}</td>
                }
                @if (after() > 0) {
                  <td class="skipped"></td>
                }
                @if (reasons()) {
                  <td class="reason">{{ row.data?.reason ?? '' }}</td>
                }
              </tr>
            }
          </tbody>
        </table>
      </div>
    </div>
    @if (failure(); as failure) {
      <p class="error" role="alert">{{ failure }}</p>
    }
  `,
  styleUrl: './sheet-grid.css',
})
export class SheetGrid {
  readonly source = input.required<GridSource>();
  readonly label = input.required<string>();
  /** Heading of the margin that holds the rows' labels. */
  readonly margin = input('page');
  readonly reasons = input(false);
  readonly chosen = input<GridCellPlace | undefined>();
  readonly choose = output<GridCellPlace>();
  /** How many rows at either end are held: two brackets in the margin show and set it. */
  readonly brackets = input<Brackets | undefined>();
  readonly bracketed = output<Brackets>();

  protected readonly rowHeight = rowHeight;
  protected readonly headHeight = 56;
  protected readonly reasonWidth = 260;
  protected readonly isError = isError;
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  private readonly view = signal({ top: 0, left: 0, height: 600, width: 900 });
  private readonly windows = new GridWindows();
  private readonly pages = this.windows.pages;
  protected readonly failure = this.windows.failure;

  /** As wide as what stands in it. */
  protected readonly marginWidth = computed(() => Math.round(Math.min(150, Math.max(66, ...[...([...this.pages().values()][0] ?? [])].slice(0, 60).map(({ label }) => label.length * 6.1 + 18)))));
  /** Digits after the point by column: as the sheet says, or else as its first rows have them. */
  private readonly decimals = computed(() => {
    const sample = [...this.pages().values()][0] ?? [];
    return this.source().columns.map(({ type, decimals }, at) => decimals ?? (type === 'decimal' || type === 'percent' ? decimalsOf(sample.map(({ cells }) => cells[at])) : 0));
  });
  private readonly widths = computed(() => {
    const sample = [...this.pages().values()][0]?.slice(0, 60) ?? [];
    return this.source().columns.map((column, at) => {
      // A name stands on two lines where its column is narrow.
      const words = column.name.split(/\s+/).map((word) => word.length);
      const name = Math.max(Math.ceil(column.name.length / 2) + 2, ...words);
      const longest = Math.max(name, column.type.length + (column.unit ? column.unit.length + 2 : 0) + (column.misfits ? 12 : 0), ...sample.map((row) => this.text(row.cells[at] ?? null, this.decimals()[at]).length));
      return Math.round(Math.min(320, Math.max(56, longest * 6.9 + 17)));
    });
  });
  private readonly lefts = computed(() => this.widths().reduce<number[]>((sums, width) => [...sums, sums.at(-1)! + width], [0]));
  protected readonly width = computed(() => this.marginWidth() + this.lefts().at(-1)! + (this.reasons() ? this.reasonWidth : 0));
  private readonly fullHeight = computed(() => this.source().rows * rowHeight);
  protected readonly height = computed(() => Math.min(this.fullHeight(), mostHeight));

  /** First row in sight; above the height that browsers bear, scrolling is scaled. */
  private readonly firstInSight = computed(() => {
    const { top, height } = this.view();
    const body = Math.max(1, height - this.headHeight);
    const scale = this.height() > body ? (this.fullHeight() - body) / Math.max(1, this.height() - body) : 1;
    return Math.max(0, Math.floor((Math.min(top, Math.max(0, this.height() - body)) * scale) / rowHeight));
  });
  private readonly range = computed(() => {
    const first = Math.max(0, this.firstInSight() - spare);
    return { first, last: Math.min(this.source().rows, this.firstInSight() + Math.ceil(this.view().height / rowHeight) + spare) };
  });
  protected readonly offset = computed(() => Math.max(0, this.view().top - (this.firstInSight() - this.range().first) * rowHeight - (this.fullHeight() > mostHeight ? 0 : this.view().top - this.firstInSight() * rowHeight)));
  protected readonly drawn = computed(() => {
    const { first, last } = this.range();
    return Array.from({ length: Math.max(0, last - first) }, (_, i) => ({ at: first + i, data: this.windows.row(first + i) }));
  });

  private readonly columnRange = computed(() => {
    const lefts = this.lefts();
    const { left, width } = this.view();
    const count = this.source().columns.length;
    let first = 0;
    while (first < count && lefts[first + 1] < left - 200) first++;
    let last = first;
    while (last < count && lefts[last] < left + width + 200) last++;
    return { first, last };
  });
  protected readonly shown = computed(() => {
    const { first, last } = this.columnRange();
    return this.source()
      .columns.slice(first, last)
      .map((column, i) => ({ ...column, at: first + i, width: this.widths()[first + i], number: numeric.has(column.type), decimals: this.decimals()[first + i] }));
  });
  protected readonly before = computed(() => this.lefts()[this.columnRange().first]);
  protected readonly after = computed(() => this.lefts().at(-1)! - this.lefts()[this.columnRange().last]);

  constructor() {
    effect(() => {
      this.source();
      untracked(() => this.windows.startAnew());
    });
    effect(() => {
      const { first, last } = this.range();
      const source = this.source();
      // Also when what was fetched last has come.
      this.pages();
      untracked(() => this.windows.fetch(source, first, last));
    });
    effect(() => {
      const place = this.chosen();
      if (place) untracked(() => this.bringToSight(place));
    });
    const observer = new ResizeObserver(() => this.scrolled());
    effect(() => observer.observe(this.frame().nativeElement));
    inject(DestroyRef).onDestroy(() => {
      observer.disconnect();
      this.windows.stop();
    });
  }

  protected text(cell: Cell, decimals = 0): string {
    return typeof cell === 'number' ? cell.toLocaleString('en', { minimumFractionDigits: decimals, maximumFractionDigits: 15 }) : typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : cellText(cell);
  }

  /** The whole of a text that may not fit. */
  protected whole = (cell: Cell) => (typeof cell === 'string' && cell.length > 20 ? cell : null);
  /** The chosen cell on the clipboard, as it is shown. */
  private copy() {
    const place = this.chosen();
    const cell = place && this.windows.row(place.row)?.cells[place.column];
    if (place && cell !== undefined) void navigator.clipboard.writeText(this.text(cell, this.decimals()[place.column])).catch(() => undefined);
  }

  protected scrolled() {
    const { scrollTop, scrollLeft, clientHeight, clientWidth } = this.frame().nativeElement;
    const view = this.view();
    if (view.top !== scrollTop || view.left !== scrollLeft || view.height !== clientHeight || view.width !== clientWidth)
      this.view.set({ top: scrollTop, left: scrollLeft, height: clientHeight, width: clientWidth });
  }

  protected key(event: KeyboardEvent) {
    if (event.key === 'c' && (event.ctrlKey || event.metaKey)) return this.copy();
    const { rows, columns } = this.source();
    const at = this.chosen() ?? { row: -1, column: 0 };
    const page = Math.max(1, Math.floor(this.view().height / rowHeight) - 2);
    const moves: Record<string, GridCellPlace> = {
      ArrowDown: { ...at, row: at.row + 1 },
      ArrowUp: { ...at, row: at.row - 1 },
      ArrowRight: { ...at, column: at.column + 1 },
      ArrowLeft: { ...at, column: at.column - 1 },
      PageDown: { ...at, row: at.row + page },
      PageUp: { ...at, row: at.row - page },
      Home: event.ctrlKey ? { row: 0, column: 0 } : { ...at, column: 0 },
      End: event.ctrlKey ? { row: rows - 1, column: columns.length - 1 } : { ...at, column: columns.length - 1 },
    };
    const to = moves[event.key];
    if (!to || rows === 0) return;
    event.preventDefault();
    this.choose.emit({ row: Math.min(rows - 1, Math.max(0, to.row)), column: Math.min(columns.length - 1, Math.max(0, to.column)) });
  }

  /** The brackets as they are dragged, before they are let go. */
  protected readonly draft = signal<Brackets | undefined>(undefined);
  protected readonly bracketsShown = computed(() => (this.fullHeight() > mostHeight ? undefined : this.brackets() && (this.draft() ?? this.brackets())));
  protected isOutside(row: number): boolean {
    const ends = this.bracketsShown();
    return ends !== undefined && (row < ends.top || row >= this.source().rows - ends.bottom);
  }

  private bringToSight({ row, column }: GridCellPlace) {
    const frame = this.frame().nativeElement;
    const body = frame.clientHeight - this.headHeight;
    const first = this.firstInSight();
    if (row < first || row >= first + Math.floor(body / rowHeight)) {
      const scale = this.height() > body ? Math.max(1, this.height() - body) / Math.max(1, this.fullHeight() - body) : 1;
      frame.scrollTop = Math.max(0, (row * rowHeight - body / 3) * scale);
    }
    const left = this.lefts()[column] ?? 0;
    const right = this.lefts()[column + 1] ?? left;
    if (left < frame.scrollLeft) frame.scrollLeft = left;
    else if (right + this.marginWidth() > frame.scrollLeft + frame.clientWidth) frame.scrollLeft = right + this.marginWidth() - frame.clientWidth;
  }
}
