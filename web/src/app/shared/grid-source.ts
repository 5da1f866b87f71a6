import type { Observable } from 'rxjs';
import type { ValueType } from '../../../../core/sheet/column';
import type { Cell } from '../../../../core/values/cell';
import type { CellFound, CellRange, Measured } from '../../../../server/contract/contract';

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
  /** A part of a split table begins with it. */
  readonly begins?: boolean;
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
  /** Its first rows, where they came with it: at least those of one window, or all. */
  readonly first?: readonly GridRow[];
  fetch(start: number, count: number): Observable<readonly GridRow[]>;
  /** What some cells hold together. */
  measure?(ranges: readonly CellRange[]): Observable<Measured>;
  /** The next cell with a text. */
  find?(text: string, from: GridCellPlace, back: boolean): Observable<CellFound>;
}

/** What an offered step would do to the rows shown. */
export interface GridPreview {
  readonly held: ReadonlySet<number>;
  /** By row and column, with a space between: what stands there then. */
  readonly changed: ReadonlyMap<string, string>;
  readonly leftOut: ReadonlySet<number>;
}
