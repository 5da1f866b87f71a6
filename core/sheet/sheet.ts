import { isBlank, type Cell } from '../values/cell';
import type { Column } from './column';
import { noRows, type Rows } from './row';

/** Immutable table: columns of equal length and distinct names, and its rows. Made by `sheet` only. */
export interface Sheet {
  readonly columns: readonly Column[];
  readonly rows: Rows;
}

export const emptySheet: Sheet = { columns: [], rows: noRows };

/** The one door: throws when columns differ in length or share a name, which is a mistake of the program. */
export function sheet(columns: readonly Column[], rows: Rows): Sheet {
  const names = new Set<string>();
  for (const column of columns) {
    if (column.cells.length !== rows.length || column.origins.length !== rows.length)
      throw new Error(`Column "${column.name}" has ${column.cells.length} cells for ${rows.length} rows.`);
    if (names.has(column.name)) throw new Error(`Two columns are named "${column.name}".`);
    names.add(column.name);
  }
  return { columns, rows };
}

/** The rows at the given places, in that order; columns keep name and type. */
export function rowsAt(of: Sheet, places: ArrayLike<number>): Sheet {
  if (places.length === of.rows.length && Array.prototype.every.call(places, (place: number, i: number) => place === i))
    return of;
  return sheet(
    of.columns.map((column) => {
      const origins = new Int32Array(places.length);
      const cells = new Array<Cell>(places.length);
      for (let i = 0; i < places.length; i++) {
        cells[i] = column.cells[places[i]];
        origins[i] = column.origins[places[i]];
      }
      return { ...column, cells, origins };
    }),
    of.rows.at(places),
  );
}

/** Splits a sheet by a test on the row's place: rows that stay, and the others. */
export function parted(of: Sheet, stays: (row: number) => boolean): { passed: Sheet; others: Sheet } {
  const passed: number[] = [];
  const others: number[] = [];
  for (let row = 0; row < of.rows.length; row++) (stays(row) ? passed : others).push(row);
  return { passed: rowsAt(of, passed), others: rowsAt(of, others) };
}

/** Places of the row's filled cells. */
export const filledColumns = (of: Sheet, row: number): number[] =>
  of.columns.flatMap((column, i) => (isBlank(column.cells[row]) ? [] : [i]));

export const isBlankRow = (of: Sheet, row: number): boolean => of.columns.every(({ cells }) => isBlank(cells[row]));
