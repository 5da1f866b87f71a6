import type { RowRole } from '../reading/found-table';
import { isBlank, type Cell } from './cell';

/** Calendar values are ISO 8601 text; decimals are exact to 15 significant digits; percent keeps the printed number. */
export const valueTypes = ['text', 'integer', 'decimal', 'percent', 'date', 'time', 'datetime', 'period', 'boolean'] as const;
export type ValueType = (typeof valueTypes)[number];

export interface Column {
  readonly name: string;
  readonly type: ValueType;
  /** Unit of the values, with the scale in which they are printed where that was kept beside: "kg", "thousands t". */
  readonly unit?: string;
  readonly cells: readonly Cell[];
  /** One id an entry into the report's `Origins`; -1: not from the paper. */
  readonly origins: Int32Array;
}

/** What is known of a row beside its cells. */
export interface RowMark {
  /** Key of the report the row comes from. */
  readonly report: string;
  /** Id of the found table, e.g. `p2t1`. */
  readonly table: string;
  /** Page the row is printed on, from 1. */
  readonly page: number;
  readonly role: RowRole;
  readonly indent: number;
  readonly bold: boolean;
  readonly shaded: boolean;
  /** Places in the report's rows as they enter the dataset; empty before that. Merged rows keep all. */
  readonly ordinals: readonly number[];
}

/** Immutable table: columns of equal length and distinct names, one mark a row. Made by `sheet` only. */
export interface Sheet {
  readonly columns: readonly Column[];
  readonly rows: readonly RowMark[];
}

/** The one door: throws when columns differ in length or share a name, which is a mistake of the program. */
export function sheet(columns: readonly Column[], rows: readonly RowMark[]): Sheet {
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
export function rowsAt(of: Sheet, places: readonly number[] | Uint32Array): Sheet {
  if (places.length === of.rows.length && places.every((place: number, i: number) => place === i)) return of;
  const marks = new Array<RowMark>(places.length);
  for (let i = 0; i < places.length; i++) marks[i] = of.rows[places[i]];
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
    marks,
  );
}

/** Splits a sheet by a test on the row's place: rows that stay, and the others. */
export function parted(of: Sheet, stays: (row: number) => boolean): { passed: Sheet; others: Sheet; othersAt: number[] } {
  const passed: number[] = [];
  const othersAt: number[] = [];
  for (let row = 0; row < of.rows.length; row++) (stays(row) ? passed : othersAt).push(row);
  return { passed: rowsAt(of, passed), others: rowsAt(of, othersAt), othersAt };
}

/** A name that no column of the sheet bears yet: the name itself, or with a number behind it. */
export function freeName(taken: Iterable<string>, wanted: string): string {
  const names = new Set(taken);
  if (!names.has(wanted)) return wanted;
  let n = 2;
  while (names.has(`${wanted} ${n}`)) n++;
  return `${wanted} ${n}`;
}

/** Places of the row's filled cells. */
export const filledColumns = (of: Sheet, row: number): number[] => of.columns.flatMap((column, i) => (isBlank(column.cells[row]) ? [] : [i]));
