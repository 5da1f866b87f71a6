import { Component, computed, effect, ElementRef, inject, input, output, signal, untracked, viewChild, DestroyRef } from '@angular/core';
import { Subscription, type Observable } from 'rxjs';
import { cellText, isError, type Cell } from '../../../../core/values/cell';
import { decimalsOf } from '../../../../core/values/plain-number';
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

/** Rows at the ends of a sheet. */
export interface Brackets {
  readonly top: number;
  readonly bottom: number;
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
const pageRows = 100;
const keptPages = 40;
/** Browsers cap the height of an element; beyond it the rows are scaled to the scroll bar. */
const mostHeight = 30_000_000;
const spare = 6;

const numeric = new Set<ValueType>(['integer', 'decimal', 'percent']);

/** A sheet by windows: any number of rows, only those in sight are fetched and drawn; so for columns. */
@Component({
  selector: 'sieve-grid',
  template: `
    <div class="frame" #frame (scroll)="scrolled()" (keydown)="key($event)" tabindex="0" role="group" [attr.aria-label]="label()">
      <div [style.height.px]="headHeight + height()" [style.width.px]="width()" class="extent">
        @if (bracketsShown(); as ends) {
          <div class="brackets">
            <div class="bracket top" role="slider" tabindex="0" aria-label="Rows held from the top" aria-orientation="vertical" aria-valuemin="0" [attr.aria-valuemax]="source().rows" [attr.aria-valuenow]="ends.top" [style.top.px]="headHeight + ends.top * rowHeight" (pointerdown)="grasp($event, 'top')" (pointermove)="pull($event)" (pointerup)="letGo()" (keydown)="nudge($event, 'top')">
              <span>{{ ends.top }}</span>
            </div>
            <div class="bracket bottom" role="slider" tabindex="0" aria-label="Rows held from the bottom" aria-orientation="vertical" aria-valuemin="0" [attr.aria-valuemax]="source().rows" [attr.aria-valuenow]="ends.bottom" [style.top.px]="headHeight + (source().rows - ends.bottom) * rowHeight - bracketHeight" (pointerdown)="grasp($event, 'bottom')" (pointermove)="pull($event)" (pointerup)="letGo()" (keydown)="nudge($event, 'bottom')">
              <span>{{ ends.bottom }}</span>
            </div>
          </div>
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
                    [attr.title]="cell !== undefined && isError(cell) ? 'expected ' + cell.expected : null"
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
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 0;
      min-width: 0;
      flex: 1;
    }
    .frame {
      flex: 1;
      overflow: auto;
      min-height: 0;
      background: var(--panel);
      position: relative;
    }
    .frame:focus-visible {
      outline-offset: -2px;
    }
    .extent {
      position: relative;
    }
    table {
      border-collapse: separate;
      border-spacing: 0;
      table-layout: fixed;
    }
    thead th,
    thead td {
      position: sticky;
      top: 0;
      z-index: 2;
      height: 56px;
      text-align: left;
      vertical-align: bottom;
      font-weight: 600;
      background: var(--head);
      border-bottom: 1px solid var(--line);
      border-right: 1px solid var(--line-soft);
      padding: 3px 8px;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .name {
      display: -webkit-box;
      -webkit-box-orient: vertical;
      -webkit-line-clamp: 2;
      overflow: hidden;
      white-space: normal;
      line-height: 1.15;
    }
    small {
      display: block;
      font-weight: 400;
      font-size: 12px;
      color: var(--muted);
    }
    tbody td,
    tbody th {
      height: 28px;
      padding: 0 8px;
      border-bottom: 1px solid var(--line-soft);
      border-right: 1px solid var(--line-soft);
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .space td {
      height: 0;
      padding: 0;
      border: 0;
    }
    .margin {
      position: sticky;
      left: 0;
      z-index: 1;
      font-weight: 400;
      font-size: 12px;
      color: var(--muted);
      background: var(--head);
    }
    thead .margin {
      z-index: 3;
    }
    .number {
      text-align: right;
    }
    td {
      cursor: pointer;
    }
    .blank {
      /* A tick in the margin rule; nothing that could pass for print. */
      background: linear-gradient(var(--tick), var(--tick)) 0 50% / 3px 16px no-repeat;
    }
    .misfit {
      background: var(--madder-soft);
      color: var(--madder);
      text-decoration: underline wavy;
    }
    .chosen td {
      background-color: var(--copper-soft);
    }
    .current {
      box-shadow: inset 0 0 0 2px var(--copper);
    }
    .reason {
      color: var(--ochre);
    }
    .brackets {
      position: sticky;
      left: 0;
      width: 66px;
      height: 0;
      z-index: 2;
    }
    .bracket {
      position: absolute;
      left: 38px;
      width: 26px;
      height: 20px;
      border-left: 3px solid var(--copper);
      background: linear-gradient(90deg, rgb(152 70 26 / 12%), transparent);
      color: var(--copper);
      font-size: 11px;
      cursor: ns-resize;
      touch-action: none;
      user-select: none;
    }
    .bracket.top {
      border-top: 3px solid var(--copper);
    }
    .bracket.bottom {
      border-bottom: 3px solid var(--copper);
    }
    .bracket span {
      position: absolute;
      right: 2px;
    }
    .outside td {
      color: var(--ochre);
      background-color: var(--ochre-soft);
      text-decoration: line-through;
    }
    p {
      margin: 4px 12px;
    }
  `,
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
  protected readonly bracketHeight = 22;
  protected readonly headHeight = 56;
  protected readonly reasonWidth = 260;
  protected readonly isError = isError;
  protected readonly failure = signal<string | undefined>(undefined);
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  private readonly view = signal({ top: 0, left: 0, height: 600, width: 900 });
  private readonly pages = signal<ReadonlyMap<number, readonly GridRow[]>>(new Map());
  private fetching = new Map<number, Subscription>();

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
    return Array.from({ length: Math.max(0, last - first) }, (_, i) => ({ at: first + i, data: this.pages().get(Math.floor((first + i) / pageRows))?.[(first + i) % pageRows] }));
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
      untracked(() => this.startAnew());
    });
    effect(() => {
      const { first, last } = this.range();
      const source = this.source();
      const pages = this.pages();
      untracked(() => {
        for (let page = Math.floor(first / pageRows); page * pageRows < last; page++) if (!pages.has(page)) this.fetch(source, page);
      });
    });
    effect(() => {
      const place = this.chosen();
      if (place) untracked(() => this.bringToSight(place));
    });
    const observer = new ResizeObserver(() => this.scrolled());
    effect(() => observer.observe(this.frame().nativeElement));
    inject(DestroyRef).onDestroy(() => {
      observer.disconnect();
      this.stop();
    });
  }

  protected text(cell: Cell, decimals = 0): string {
    return typeof cell === 'number' ? cell.toLocaleString('en', { minimumFractionDigits: decimals, maximumFractionDigits: 15 }) : typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : cellText(cell);
  }

  protected scrolled() {
    const { scrollTop, scrollLeft, clientHeight, clientWidth } = this.frame().nativeElement;
    const view = this.view();
    if (view.top !== scrollTop || view.left !== scrollLeft || view.height !== clientHeight || view.width !== clientWidth)
      this.view.set({ top: scrollTop, left: scrollLeft, height: clientHeight, width: clientWidth });
  }

  protected key(event: KeyboardEvent) {
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
  private readonly draft = signal<Brackets | undefined>(undefined);
  private grasped: keyof Brackets | undefined;
  protected readonly bracketsShown = computed(() => (this.fullHeight() > mostHeight ? undefined : this.brackets() && (this.draft() ?? this.brackets())));
  protected isOutside(row: number): boolean {
    const ends = this.bracketsShown();
    return ends !== undefined && (row < ends.top || row >= this.source().rows - ends.bottom);
  }
  protected grasp(event: PointerEvent, end: keyof Brackets) {
    event.preventDefault();
    (event.target as HTMLElement).closest('.bracket')!.setPointerCapture(event.pointerId);
    this.grasped = end;
  }
  protected pull(event: PointerEvent) {
    if (!this.grasped) return;
    const frame = this.frame().nativeElement;
    const line = Math.round((event.clientY - frame.getBoundingClientRect().top + frame.scrollTop - this.headHeight) / rowHeight);
    this.draft.set(this.withEnd(this.grasped, this.grasped === 'top' ? line : this.source().rows - line));
  }
  protected letGo() {
    const ends = this.draft();
    this.grasped = undefined;
    this.draft.set(undefined);
    if (ends) this.bracketed.emit(ends);
  }
  protected nudge(event: KeyboardEvent, end: keyof Brackets) {
    const down = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!down) return;
    event.preventDefault();
    event.stopPropagation();
    this.bracketed.emit(this.withEnd(end, this.brackets()![end] + (end === 'top' ? down : -down)));
  }
  /** One end set anew, as far as the other lets it. */
  private withEnd(end: keyof Brackets, rows: number): Brackets {
    const ends = this.bracketsShown()!;
    const other = end === 'top' ? ends.bottom : ends.top;
    return { ...ends, [end]: Math.max(0, Math.min(this.source().rows - other, rows)) };
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

  private startAnew() {
    this.stop();
    this.pages.set(new Map());
    this.failure.set(undefined);
  }

  private stop() {
    for (const each of this.fetching.values()) each.unsubscribe();
    this.fetching = new Map();
  }

  private fetch(source: GridSource, page: number) {
    if (this.fetching.has(page)) return;
    // What has scrolled out of sight before it came is not waited for.
    const { first, last } = this.range();
    for (const [other, subscription] of this.fetching)
      if ((other + 1) * pageRows < first || other * pageRows > last) {
        subscription.unsubscribe();
        this.fetching.delete(other);
      }
    this.fetching.set(
      page,
      source.fetch(page * pageRows, pageRows).subscribe({
        next: (rows) => {
          this.fetching.delete(page);
          this.pages.update((pages) => new Map([...[...pages].slice(-keptPages), [page, rows]]));
        },
        error: (error: Error) => {
          this.fetching.delete(page);
          this.failure.set(error.message);
        },
      }),
    );
  }
}
