import * as v from 'valibot';
import { isBlank, type Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import type { Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { columnNamed, missingColumn } from '../sheet/column';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, step, widget, type Overwritten } from './step';

const directions = ['down', 'up', 'right'] as const;

export const carryValues = step({
  kind: 'carry values',
  title: 'Carry values',
  group: 'values',
  help: 'A blank cell takes the value above it, below it, or at its left.',
  settings: {
    columns: field(columnChoice, 'In'),
    direction: field(v.optional(v.picklist(directions), 'down'), 'Direction'),
    stopAt: field(
      widget(v.optional(v.string(), ''), { widget: 'column' }),
      'Stops when',
      'A column: where its value changes, nothing is carried over. Blank: at the next report only.',
    ),
  },
  commutesWithAppend: false,
  describe: ({ columns, direction, stopAt }) =>
    `${direction === 'down' ? 'Down' : direction === 'up' ? 'Up' : 'To the right'} in ${describeChoice(columns)}${stopAt && direction !== 'right' ? `, until ${stopAt} changes` : ''}`,
  run(sheet, { columns, direction, stopAt }) {
    const { columns: filling, problems } = chosen(sheet, columns);
    if (direction === 'right') return { ...carriedRight(sheet, filling), problems };
    const stop = stopAt === '' ? undefined : columnNamed(sheet, stopAt);
    if (stopAt !== '' && !stop) return { sheet, problems: [...problems, missingColumn(sheet, stopAt)] };
    const overwritten: Overwritten[] = [];
    const carried = sheet.columns.map((column) => {
      if (!filling.includes(column)) return column;
      const { carried: own, rows } = carry(column, sheet, direction, stop);
      if (rows.length > 0)
        overwritten.push({
          column: column.name,
          rows,
          old: rows.map(() => null),
          why: `blank: took the value ${direction === 'down' ? 'above' : 'below'}`,
        });
      return own;
    });
    return { sheet: makeSheet(carried, sheet.rows), overwritten, problems };
  },
});

/** Values never run over from one report into another. */
function carry(
  column: Column,
  { rows }: Sheet,
  direction: 'down' | 'up',
  stop: Column | undefined,
): { carried: Column; rows: number[] } {
  const cells: Cell[] = [...column.cells];
  const origins = Int32Array.from(column.origins);
  const filled: number[] = [];
  const by = direction === 'down' ? 1 : -1;
  let last: Cell = null;
  let origin = nowhere;
  for (let n = 0, row = direction === 'down' ? 0 : cells.length - 1; n < cells.length; n++, row += by) {
    if (n > 0 && (!rows.inSameReport(row, row - by) || (stop && stop.cells[row] !== stop.cells[row - by]))) last = null;
    if (!isBlank(column.cells[row])) {
      last = column.cells[row];
      origin = column.origins[row];
    } else if (!isBlank(last)) {
      cells[row] = last;
      origins[row] = origin;
      filled.push(row);
    }
  }
  return { carried: { ...column, cells, origins }, rows: filled.sort((a, b) => a - b) };
}

function carriedRight(sheet: Sheet, filling: readonly Column[]): { sheet: Sheet; overwritten: Overwritten[] } {
  const overwritten: Overwritten[] = [];
  let left: Column | undefined;
  const columns = sheet.columns.map((column) => {
    if (!filling.includes(column)) return column;
    const from: Column | undefined = left;
    const rows = from
      ? column.cells.flatMap((cell, row) => (isBlank(cell) && !isBlank(from.cells[row]) ? [row] : []))
      : [];
    left = column;
    if (!from || rows.length === 0) return column;
    const cells = [...column.cells];
    const origins = Int32Array.from(column.origins);
    for (const row of rows) {
      cells[row] = from.cells[row];
      origins[row] = from.origins[row];
    }
    overwritten.push({
      column: column.name,
      rows,
      old: rows.map(() => null),
      why: 'blank: took the value at its left',
    });
    left = { ...column, cells, origins };
    return left;
  });
  return { sheet: makeSheet(columns, sheet.rows), overwritten };
}
