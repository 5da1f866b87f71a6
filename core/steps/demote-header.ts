import { freeName, sheet as makeSheet, type Column } from '../sheet/sheet';
import { step } from './step';

export const demoteHeader = step({
  kind: 'demote header',
  title: 'Demote header',
  group: 'columns',
  help: 'Makes the names of the columns a row of the sheet again; the columns are numbered.',
  settings: {},
  commutesWithAppend: false,
  describe: () => 'Column names become the first row',
  run(sheet) {
    const [first] = sheet.rows;
    if (!first) return { sheet };
    const taken: string[] = [];
    const columns = sheet.columns.map((column, i): Column => {
      const name = freeName(taken, `Column ${i + 1}`);
      taken.push(name);
      return { name, type: 'text', cells: [column.name, ...column.cells.map((cell) => (typeof cell === 'number' || typeof cell === 'boolean' ? String(cell) : cell))], origins: Int32Array.of(-1, ...column.origins) };
    });
    return { sheet: makeSheet(columns, [{ ...first, role: 'heading', ordinals: [] }, ...sheet.rows]), added: 1 };
  },
});
