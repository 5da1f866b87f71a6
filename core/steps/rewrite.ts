import type { Cell } from '../values/cell';
import type { Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import type { Overwritten, StepResult } from './step';

const same = (a: Cell, b: Cell): boolean =>
  a === b ||
  (typeof a === 'object' &&
    typeof b === 'object' &&
    a !== null &&
    b !== null &&
    a.text === b.text &&
    a.expected === b.expected);

/** Writes cells of some columns anew, row by row, and lists every cell that is another after it. */
export function rewritten(
  sheet: Sheet,
  columns: readonly Column[],
  why: string,
  write: (cell: Cell, row: number, column: Column) => Cell,
): Pick<StepResult, 'sheet' | 'overwritten'> {
  const overwritten: Overwritten[] = [];
  const next = sheet.columns.map((column) => {
    if (!columns.includes(column)) return column;
    const rows: number[] = [];
    const cells = column.cells.map((cell, row) => {
      const written = write(cell, row, column);
      if (same(written, cell)) return cell;
      rows.push(row);
      return written;
    });
    if (rows.length === 0) return column;
    overwritten.push({ column: column.name, rows, old: rows.map((row) => column.cells[row]), why });
    return { ...column, cells };
  });
  return { sheet: makeSheet(next, sheet.rows), overwritten };
}
