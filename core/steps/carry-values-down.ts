import { isBlank, type Cell } from '../sheet/cell';
import { nowhere } from '../sheet/origin';
import { sheet as makeSheet, type Column, type RowMark } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, step, type Overwritten } from './step';

export const carryValuesDown = step({
  kind: 'carry values down',
  title: 'Carry values down',
  group: 'values',
  help: 'A blank cell takes the value above it.',
  settings: { columns: field(columnChoice, 'In') },
  commutesWithAppend: false,
  describe: ({ columns }) => `In ${describeChoice(columns)}`,
  run(sheet, { columns }) {
    const { columns: filling, problems } = chosen(sheet, columns);
    const overwritten: Overwritten[] = [];
    const carried = sheet.columns.map((column) => {
      if (!filling.includes(column)) return column;
      const { filled, rows } = carry(column, sheet.rows);
      if (rows.length > 0) overwritten.push({ column: column.name, rows, old: rows.map(() => null), why: 'blank: took the value above' });
      return filled;
    });
    return { sheet: makeSheet(carried, sheet.rows), overwritten, problems };
  },
});

/** Values never run over from one report into the next. */
function carry(column: Column, marks: readonly RowMark[]): { filled: Column; rows: number[] } {
  const cells: Cell[] = [];
  const origins = Int32Array.from(column.origins);
  const rows: number[] = [];
  let above: Cell = null;
  let origin = nowhere;
  column.cells.forEach((cell, row) => {
    if (row > 0 && marks[row].report !== marks[row - 1].report) above = null;
    if (!isBlank(cell)) {
      above = cell;
      origin = column.origins[row];
    } else if (!isBlank(above)) {
      origins[row] = origin;
      rows.push(row);
    }
    cells.push(isBlank(cell) ? above : cell);
  });
  return { filled: { ...column, cells, origins }, rows };
}
