import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../sheet/cell';
import { freeName, sheet as makeSheet, type Column } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, step } from './step';

export const concatenateColumns = step({
  kind: 'concatenate columns',
  title: 'Concatenate columns',
  group: 'columns',
  help: 'Joins the texts of several columns into one, in their order; blanks are skipped.',
  settings: {
    columns: field(columnChoice, 'Columns'),
    joiner: field(v.optional(v.string(), ' '), 'Joined with'),
    into: field(v.optional(v.string(), 'Joined'), 'Into column'),
    keep: field(v.optional(v.boolean(), false), 'Keep the columns too'),
  },
  commutesWithAppend: true,
  describe: ({ columns, into, joiner }) => `${describeChoice(columns)} into ${into}, joined with “${joiner}”`,
  run(sheet, { columns, joiner, into, keep }, { papers }) {
    const { columns: joined, problems } = chosen(sheet, columns);
    if (joined.length === 0) return { sheet, problems };
    const cells: Cell[] = [];
    const origins = new Int32Array(sheet.rows.length);
    sheet.rows.forEach((mark, row) => {
      const filled = joined.filter((column) => !isBlank(column.cells[row]));
      cells.push(filled.length === 0 ? null : filled.map((column) => cellText(column.cells[row])).join(joiner));
      origins[row] = papers(mark.report).origins.union(filled.map((column) => column.origins[row]));
    });
    const rest = sheet.columns.filter((column) => keep || !joined.includes(column));
    const one: Column = { name: freeName(rest.map((column) => column.name), into), type: 'text', cells, origins };
    const at = sheet.columns.filter((column) => keep || !joined.includes(column) || column === joined[0]).indexOf(joined[0]);
    return { sheet: makeSheet([...rest.slice(0, at), one, ...rest.slice(at)], sheet.rows), problems, ...(keep ? {} : { leftOut: joined }) };
  },
});
