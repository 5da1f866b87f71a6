import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import type { Column } from '../sheet/column';
import { rowsAt } from '../sheet/sheet';
import { columnNamed, missingColumn } from '../sheet/column';
import { field, step, widget } from './step';

export const sort = step({
  kind: 'sort',
  title: 'Sort',
  group: 'rows',
  help: 'Orders the rows by columns, the first of them first. Rows that are alike stay in their order; blanks and misfits come last.',
  settings: {
    by: field(
      v.array(
        v.object({
          column: field(widget(v.string(), { widget: 'column' }), 'Column'),
          order: field(v.optional(v.picklist(['up', 'down']), 'up'), 'Order'),
        }),
      ),
      'By',
    ),
  },
  commutesWithAppend: false,
  describe: ({ by }) =>
    by.length === 0
      ? 'By no column yet'
      : `By ${by.map(({ column, order }) => `${column}${order === 'down' ? ', downwards' : ''}`).join('; ')}`,
  run(sheet, { by }) {
    const wanted = by.map(({ column: name, order }) => ({
      column: columnNamed(sheet, name),
      name,
      sign: order === 'up' ? 1 : -1,
    }));
    const problems = wanted.filter(({ column }) => !column).map(({ name }) => missingColumn(sheet, name));
    const keys = wanted.flatMap(({ column, sign }) => (column ? [ranksOf(column, sign)] : []));
    const places = Uint32Array.from({ length: sheet.rows.length }, (_, row) => row);
    places.sort((a, b) => {
      for (const ranks of keys) if (ranks[a] !== ranks[b]) return ranks[a] - ranks[b];
      return a - b;
    });
    return { sheet: rowsAt(sheet, places), problems };
  },
});

/** What a cell is ordered by; null for what is no value. */
const keyOf = (cell: Cell): string | number | null =>
  isBlank(cell) || isError(cell) ? null : typeof cell === 'number' ? cell : cellText(cell);

/** The place of each row's value among the different values of the column: they are compared once each, not once a row. */
function ranksOf({ cells }: Column, sign: number): Int32Array {
  const numbers = new Map<string | number | null, number>();
  const ids = Int32Array.from(cells, (cell) => {
    const key = keyOf(cell);
    let id = numbers.get(key);
    if (id === undefined) numbers.set(key, (id = numbers.size));
    return id;
  });
  const rankOf = new Int32Array(numbers.size);
  [...numbers].sort(([a], [b]) => compared(a, b, sign)).forEach(([, id], rank) => (rankOf[id] = rank));
  return ids.map((id) => rankOf[id]);
}

/** Numbers by size and before texts, texts by code point; what is no value comes last in either order. */
function compared(a: string | number | null, b: string | number | null, sign: number): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  if (typeof a === typeof b) return a === b ? 0 : sign * (a < b ? -1 : 1);
  return sign * (typeof a === 'number' ? -1 : 1);
}
