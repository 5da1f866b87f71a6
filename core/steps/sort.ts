import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../sheet/cell';
import { rowsAt } from '../sheet/sheet';
import { missingColumn, sameName } from './column-choice';
import { field, step } from './step';

export const sort = step({
  kind: 'sort',
  title: 'Sort',
  group: 'rows',
  help: 'Orders the rows by columns, the first of them first. Rows that are alike stay in their order; blanks and misfits come last.',
  settings: { by: field(v.array(v.object({ column: field(v.string(), 'Column'), order: field(v.optional(v.picklist(['up', 'down']), 'up'), 'Order') })), 'By') },
  commutesWithAppend: false,
  describe: ({ by }) => (by.length === 0 ? 'By no column yet' : `By ${by.map(({ column, order }) => `${column}${order === 'down' ? ', downwards' : ''}`).join('; ')}`),
  run(sheet, { by }) {
    const keys = by.map(({ column: name, order }) => ({ column: sheet.columns.find((column) => sameName(column.name, name)), name, sign: order === 'up' ? 1 : -1 }));
    const problems = keys.filter(({ column }) => !column).map(({ name }) => missingColumn(sheet, name));
    const places = sheet.rows.map((_, row) => row);
    places.sort((a, b) => {
      for (const { column, sign } of keys) {
        if (!column) continue;
        const order = compared(column.cells[a], column.cells[b], sign);
        if (order !== 0) return order;
      }
      return a - b;
    });
    return { sheet: rowsAt(sheet, places), problems };
  },
});

const last = (cell: Cell) => isBlank(cell) || isError(cell);

/** Numbers by size, texts by code point; what is no value comes last in either order. */
function compared(a: Cell, b: Cell, sign: number): number {
  if (last(a) || last(b)) return Number(last(a)) - Number(last(b));
  if (typeof a === 'number' && typeof b === 'number') return sign * (a - b);
  const [left, right] = [cellText(a), cellText(b)];
  return left === right ? 0 : sign * (left < right ? -1 : 1);
}
