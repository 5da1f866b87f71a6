import { Component, computed, DestroyRef, effect, ElementRef, inject, input, model, output, signal, untracked, viewChild } from '@angular/core';
import type { MenuItem } from 'primeng/api';
import { Menu } from 'primeng/menu';
import { cellText, isError, type Cell } from '../../../../core/values/cell';
import type { CellRange, PartOfText } from '../../../../server/contract/contract';
import type { GridCellPlace, GridPreview, GridRow, GridSource } from './grid-source';
import { GridBrackets, type Brackets } from './grid-brackets';
import { cellShown } from './cell-shown';
import { ColumnEdge } from './column-edge';
import { Clipboard } from './clipboard';
import { rangesAsText } from './grid-copy';
import { GridFoot } from './grid-foot';
import { GridLayout } from './grid-layout';
import { GridGeometry, headHeight, isSkipped, mostHeight, rowHeight, type ShownColumn } from './grid-geometry';
import { placeBy } from './grid-keys';
import { GridPart } from './grid-part';
import { GridSelection, joiningBy } from './grid-selection';
import { GridTexts } from './grid-texts';
import { GridWindows } from './grid-windows';
import { plural } from './words';

export type * from './grid-source';

/** Rows fetched before they come in sight. */
const ahead = 150;
let made = 0;

const placeKey = ({ row, column }: GridCellPlace) => `${row} ${column}`;

/** A sheet by windows: any number of rows, only those in sight are fetched and drawn; so for columns. */
@Component({
  selector: 'sieve-grid',
  host: { '(document:mouseup)': 'pressed = false' },
  imports: [ColumnEdge, GridBrackets, GridFoot, GridPart, Menu],
  templateUrl: './sheet-grid.html',
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
  /** What can be done with the columns of a heading, beside copying. */
  readonly menuOf = input<(columns: readonly number[]) => MenuItem[]>(() => []);
  /** Under what name the widths of its columns, and those that stay in sight, are remembered. */
  readonly keptAs = input('');
  /** The line under it shows only when there is something to say. */
  readonly quiet = input(false);
  /** The columns that are selected whole. */
  readonly columnsSelected = output<readonly number[]>();
  /** The one range that is selected; undefined for none, and for several. */
  readonly selected = output<CellRange | undefined>();
  /** Parts of texts and edges of columns can be selected too: the column left of the edge. */
  readonly asks = input(false);
  readonly part = output<PartOfText | undefined>();
  readonly edge = model<number | undefined>();
  /** What an offered step would do: rows and cells that it would hold or change, columns that it would leave out. */
  readonly preview = input<GridPreview | undefined>();

  protected readonly rowHeight = rowHeight;
  protected readonly headHeight = headHeight;
  protected readonly isError = isError;
  protected readonly isSkipped = isSkipped;
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  private readonly table = viewChild.required<ElementRef<HTMLElement>>('table');
  private readonly menu = viewChild.required<Menu>('menu');
  private readonly foot = viewChild(GridFoot);
  protected readonly selection = new GridSelection(() => ({ rows: this.source().rows, columns: this.source().columns.length }));
  protected readonly wholeColumns = computed(() => new Set(this.selection.columns()));
  protected readonly joiningBy = joiningBy;
  private readonly clipboard = inject(Clipboard);
  protected readonly menuItems = signal<MenuItem[]>([]);
  private readonly id = `grid-${++made}`;
  private readonly windows = new GridWindows();
  private readonly pages = this.windows.pages;
  protected readonly failure = this.windows.failure;

  protected readonly layout = new GridLayout(this.keptAs);
  protected readonly geometry = new GridGeometry({
    rows: computed(() => this.source().rows),
    columns: computed(() => this.source().columns),
    sample: this.windows.first,
    reasons: this.reasons,
    layout: this.layout.layout,
    text: cellShown,
  });
  protected readonly texts = new GridTexts(this.geometry.decimals);
  private readonly range = this.geometry.range;
  protected readonly shown = this.geometry.shown;
  protected readonly drawn = computed(() => {
    const { first, last } = this.range();
    return Array.from({ length: Math.max(0, last - first) }, (_, i) => ({ at: first + i, data: this.windows.row(first + i) }));
  });

  constructor() {
    effect(() => {
      this.source();
      untracked(() => {
        this.windows.startAnew(this.source().first);
        this.selection.clear();
      });
    });
    effect(() => this.columnsSelected.emit(this.selection.columns()));
    effect(() => this.selected.emit(this.selection.ranges().length === 1 ? this.selection.ranges()[0] : undefined));
    effect(() => {
      const { first, last } = this.range();
      const source = this.source();
      // Also when what was fetched last has come.
      this.pages();
      // And those that are scrolled to next.
      untracked(() => this.windows.fetch(source, Math.max(0, first - ahead), Math.min(source.rows, last + ahead)));
    });
    effect(() => {
      const place = this.chosen();
      untracked(() => {
        if (!place) return;
        const key = placeKey(place);
        // What the grid itself has chosen is selected already; the keys may have gone on since.
        const focus = this.selection.focus();
        if (key !== this.emitted && (focus?.row !== place.row || focus.column !== place.column)) this.selection.cell(place);
        // One that was brought to sight is left where it is: who has scrolled on stays there.
        if (key !== this.brought) this.bringToSight(place);
      });
    });
    effect((onCleanup) => onCleanup(this.geometry.follow(this.frame().nativeElement)));
    inject(DestroyRef).onDestroy(() => this.windows.stop());
  }

  /** What is selected on the clipboard: one cell as it is shown, ranges as spreadsheets take them. */
  protected copy(withHeadings = false) {
    const place = this.chosen();
    const row = place && this.windows.row(place.row);
    if (this.selection.several()) void rangesAsText(this.source(), this.selection.ranges(), withHeadings).then(({ text, rows, more }) => this.clipboard.put(text, `${plural(rows, 'row')} copied${more ? ', as many as go at a time' : ''}.`), (error: Error) => this.clipboard.tell('error', error.message));
    else if (row) this.clipboard.put(this.texts.of(row, place.column));
  }

  protected readonly active = computed(() => {
    const focus = this.selection.focus();
    const { first, last } = this.range();
    // Only what is drawn can be pointed to.
    const drawn = focus && this.shown().some(({ at }) => at === focus.column);
    return focus && drawn && (focus.row < 0 || (focus.row >= first && focus.row < last)) ? this.cellId(focus.row, focus.column) : null;
  });
  protected cellId = (row: number, column: number) => `${this.id}-${row}-${column}`;

  /** How a cell looks, as its classes: one text for many cells costs less than a test for each class. */
  protected lookOf(row: number, shown: ShownColumn, cell: Cell | undefined): string {
    if (isSkipped(shown)) return 'skipped';
    const { at: column, number, left } = shown;
    const chosen = this.chosen();
    const parts = number ? ['number'] : [];
    if (left !== null) parts.push('frozen');
    if (cell === null || cell === '') parts.push('blank');
    else if (cell !== undefined && isError(cell)) parts.push('misfit');
    if (row === chosen?.row && column === chosen.column) parts.push('current');
    if (this.selection.several() && this.selection.has(row, column)) parts.push('selected');
    const preview = this.preview();
    if (preview?.held.has(row) || preview?.leftOut.has(column)) parts.push('going');
    else if (preview?.changed.has(placeKey({ row, column }))) parts.push('changing');
    return parts.join(' ');
  }
  /** What a cell becomes, where that reads otherwise. */
  protected becomes({ at: row, data }: { readonly at: number; readonly data?: GridRow | undefined }, column: number): string | null {
    const to = this.preview()?.changed.get(placeKey({ row, column }));
    return to === undefined || to === this.texts.of(data, column) ? null : to;
  }
  protected readonly textAt = ({ row, column }: GridCellPlace) => {
    const cell = this.windows.row(row)?.cells[column];
    return cell === undefined ? undefined : cellText(cell);
  };
  protected isActive(row: number, column: number): boolean {
    const focus = this.selection.focus();
    return row === focus?.row && column === focus.column;
  }

  /** The cell, or with column -1 the margin, that something was done at: listened to once, not at every cell. */
  private placeAt(event: Event): GridCellPlace | undefined {
    const cell = (event.target as Element).closest('td[aria-colindex], th.margin');
    const row = cell?.closest('tr')?.getAttribute('aria-rowindex');
    return cell && row ? { row: Number(row) - 2, column: Number(cell.getAttribute('aria-colindex') ?? 1) - 2 } : undefined;
  }
  /** Was the mouse pressed in the grid? One that comes in pressed, as with a handle, selects nothing. */
  protected pressed = false;
  protected press(event: MouseEvent) {
    const place = this.placeAt(event);
    if (!place || event.button !== 0) return;
    this.pressed = true;
    if (place.column < 0) this.selection.row(place.row, joiningBy(event));
    else this.selection.cell(place, joiningBy(event));
  }
  /** The cells on the way of a pressed mouse are selected; a text that does not fit is told in full. */
  protected over(event: MouseEvent) {
    const place = this.placeAt(event);
    if (!place || place.column < 0) return;
    if (this.pressed && event.buttons === 1) this.selection.cell(place, 'reaching');
    const cell = event.target as HTMLElement;
    if (!cell.title && cell.scrollWidth > cell.clientWidth) cell.title = cell.innerText;
  }
  protected pick(event: MouseEvent) {
    const place = this.placeAt(event);
    if (place && place.column >= 0 && joiningBy(event) === 'alone' && !this.selection.several()) this.chooseHere(place);
  }
  protected goTo(place: GridCellPlace) {
    this.selection.cell(place);
    this.bringToSight(place);
    this.chooseHere(place);
  }
  protected focusOnGrid() {
    this.table().nativeElement.focus({ preventScroll: true });
  }

  /** What can be done with a column, or with all that are selected where it is one of them. */
  protected openMenu(event: Event, column: number) {
    if (!this.wholeColumns().has(column)) this.selection.column(column);
    const columns = this.selection.columns();
    const names = columns.map((at) => this.source().columns[at].name);
    const copies: MenuItem[] = [
      { label: columns.length > 1 ? 'Names' : 'Name', command: () => this.clipboard.put(names.join('\t')) },
      { label: 'Values', command: () => this.copy() },
      { label: 'Values with heading', command: () => this.copy(true) },
    ];
    this.menuItems.set([...this.menuOf()(columns), { label: 'Copy', items: copies }, { label: 'Layout', items: this.layout.menuFor(columns.map((at) => ({ name: this.source().columns[at].name, width: this.geometry.widths()[at] }))) }]);
    this.menu().show({ currentTarget: document.getElementById(this.cellId(-1, column)) ?? event.currentTarget });
  }

  protected key(event: KeyboardEvent) {
    const { key, shiftKey, altKey } = event;
    const control = event.ctrlKey || event.metaKey;
    const { rows, columns } = this.source();
    const at = this.selection.focus() ?? this.chosen() ?? { row: -1, column: 0 };
    const deeds: Record<string, (() => void) | undefined> = {
      c: control ? () => this.copy(shiftKey) : undefined,
      C: control ? () => this.copy(true) : undefined,
      a: control ? () => this.selection.all() : undefined,
      f: control && this.source().find ? () => this.foot()?.open() : undefined,
      ' ': control ? () => this.selection.column(at.column) : shiftKey && at.row >= 0 ? () => this.selection.row(at.row) : undefined,
      Enter: at.row < 0 ? () => this.openMenu(event, at.column) : undefined,
      '|': at.row < 0 && this.asks() ? () => this.edge.set(at.column) : undefined,
      ContextMenu: () => this.openMenu(event, at.column),
      Escape: this.selection.several() ? () => (at.row < 0 ? this.selection.clear() : this.selection.cell(at)) : undefined,
    };
    const deed = altKey && key === 'ArrowDown' ? () => this.openMenu(event, at.column) : deeds[key];
    const to = placeBy(key, at, { rows, columns: columns.length, page: Math.max(1, Math.floor(this.geometry.view().height / rowHeight) - 2), control });
    if (rows === 0 || (!deed && !to)) return;
    event.preventDefault();
    if (!to || deed) return deed?.();
    const place = { row: Math.min(rows - 1, Math.max(-1, to.row)), column: Math.min(columns.length - 1, Math.max(0, to.column)) };
    if (shiftKey) {
      if (this.selection.ranges().length === 0) this.selection.cell(at);
      this.selection.cell(at.row < 0 ? { ...place, row: -1 } : { ...place, row: Math.max(0, place.row) }, 'reaching');
      this.bringToSight(place);
    } else if (place.row < 0) {
      this.selection.column(place.column);
      this.bringToSight({ ...place, row: 0 });
    } else {
      this.selection.cell(place);
      this.chooseHere(place);
    }
  }

  /** The brackets as they are dragged, before they are let go. */
  protected readonly draft = signal<Brackets | undefined>(undefined);
  protected readonly bracketsShown = computed(() => (this.geometry.fullHeight() > mostHeight ? undefined : this.brackets() && (this.draft() ?? this.brackets())));
  protected isOutside(row: number): boolean {
    const ends = this.bracketsShown();
    return ends !== undefined && (row < ends.top || row >= this.source().rows - ends.bottom);
  }

  /** The place that the grid itself gave out last. */
  private emitted = '';
  private chooseHere(place: GridCellPlace) {
    this.emitted = placeKey(place);
    this.choose.emit(place);
  }
  /** The place that was brought to sight last. */
  private brought = '';
  private bringToSight({ row, column }: GridCellPlace) {
    this.brought = placeKey({ row, column });
    const frame = this.frame().nativeElement;
    frame.scrollTop = this.geometry.topFor(row, frame.clientHeight) ?? frame.scrollTop;
    const [lefts, margin] = [this.geometry.lefts(), this.geometry.marginWidth()];
    const left = lefts[column] ?? 0;
    const right = lefts[column + 1] ?? left;
    if (column < this.geometry.frozen()) return;
    if (left - this.geometry.frozenWidth() < frame.scrollLeft) frame.scrollLeft = left - this.geometry.frozenWidth();
    else if (right + margin > frame.scrollLeft + frame.clientWidth) frame.scrollLeft = right + margin - frame.clientWidth;
  }
}
