import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../sheet/cell';
import { rowsAt } from '../sheet/sheet';
import { missingColumn, sameName } from './column-choice';
import { field, step, widget } from './step';

export const sort = step({
  kind: 'sort',
  title: 'Sort',
  group: 'rows',
  help: 'Orders the rows by columns, the first of them first. Rows that are alike stay in their order; blanks and misfits come last.',
  settings: { by: field(v.array(v.object({ column: field(widget(v.string(), 'column'), 'Column'), order: field(v.optional(v.picklist(['up', 'down']), 'up'), 'Order') })), 'By') },
  commutesWithAppend: false,
  describe: ({ by }) => (by.length === 0 ? 'By no column yet' : `By ${by.map(({ column, order }) => `${column}${order === 'down' ? ', downwards' : ''}`).join('; ')}`),
  run(sheet, { by }) {
    const wanted = by.map(({ column: name, order }) => ({ column: sheet.columns.find((column) => sameName(column.name, name)), name, sign: order === 'up' ? 1 : -1 }));
    const problems = wanted.filter(({ column }) => !column).map(({ name }) => missingColumn(sheet, name));
    const keys = wanted.flatMap(({ column, sign }) => (column ? [{ sign, values: column.cells.map(keyOf) }] : []));
    const places = sheet.rows.map((_, row) => row);
    places.sort((a, b) => {
      for (const { values, sign } of keys) {
        const order = compared(values[a], values[b], sign);
        if (order !== 0) return order;
      }
      return a - b;
    });
    return { sheet: rowsAt(sheet, places), problems };
  },
});

/** What a cell is ordered by; null for what is no value. */
const keyOf = (cell: Cell): string | number | null => (isBlank(cell) || isError(cell) ? null : typeof cell === 'number' ? cell : cellText(cell));

/** Numbers by size, texts by code point; what is no value comes last in either order. */
function compared(a: string | number | null, b: string | number | null, sign: number): number {
  if (a === b) return 0;
  if (a === null || b === null) return a === null ? 1 : -1;
  if (typeof a === 'number' && typeof b === 'number') return sign * (a - b);
  const [left, right] = [String(a), String(b)];
  return left === right ? 0 : sign * (left < right ? -1 : 1);
}
