import { freeNames, type Column } from '../sheet/column';
import { nowhere } from '../sheet/origin';
import { Rows } from '../sheet/row';
import { sheet as makeSheet } from '../sheet/sheet';
import { step } from './step';

function withFirst(first: number, others: Int32Array): Int32Array {
  const all = new Int32Array(others.length + 1);
  all[0] = first;
  all.set(others, 1);
  return all;
}

export const demoteHeader = step({
  kind: 'demote header',
  title: 'Demote header',
  group: 'columns',
  help: 'Makes the names of the columns a row of the sheet again; the columns are numbered.',
  settings: {},
  commutesWithAppend: false,
  describe: () => 'Column names become the first row',
  run(sheet) {
    if (sheet.rows.length === 0) return { sheet };
    const { book } = sheet.rows;
    const free = freeNames();
    const columns = sheet.columns.map((column, i): Column => ({
      name: free(`Column ${i + 1}`),
      type: 'text',
      cells: [
        column.name,
        ...column.cells.map((cell) => (typeof cell === 'number' || typeof cell === 'boolean' ? String(cell) : cell)),
      ],
      origins: withFirst(column.namedBy ?? nowhere, column.origins),
    }));
    return {
      sheet: makeSheet(
        columns,
        new Rows(book, withFirst(book.add({ ...sheet.rows.mark(0), role: 'heading' }, -1), sheet.rows.numbers)),
      ),
      added: 1,
    };
  },
});
