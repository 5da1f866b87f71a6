import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { freeNames, type Column } from '../sheet/column';
import { sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { between, betweenInWords, field, step } from './step';

export const concatenateColumns = step({
  kind: 'concatenate columns',
  title: 'Concatenate columns',
  group: 'columns',
  help: 'Joins the texts of several columns into one, in their order; blanks are skipped.',
  settings: {
    columns: field(columnChoice, 'Columns'),
    joiner: field(between(v.optional(v.string(), ' ')), 'Joined with'),
    into: field(v.optional(v.string(), 'Joined'), 'Into column'),
    keep: field(v.optional(v.boolean(), false), 'Keep the columns too'),
  },
  commutesWithAppend: true,
  describe: ({ columns, into, joiner }) =>
    `${describeChoice(columns)} into ${into}, joined with ${betweenInWords(joiner)}`,
  run(sheet, { columns, joiner, into, keep }) {
    const { columns: joined, problems } = chosen(sheet, columns);
    if (joined.length === 0) return { sheet, problems };
    const cells = new Array<Cell>(sheet.rows.length);
    const origins = new Int32Array(sheet.rows.length);
    const from: number[] = [];
    const { book } = sheet.rows;
    for (let row = 0; row < sheet.rows.length; row++) {
      let text: string | null = null;
      from.length = 0;
      for (const column of joined) {
        const cell = column.cells[row];
        if (isBlank(cell)) continue;
        text = text === null ? cellText(cell) : text + joiner + cellText(cell);
        from.push(column.origins[row]);
      }
      cells[row] = text;
      origins[row] = book.origins.union(from);
    }
    const rest = sheet.columns.filter((column) => keep || !joined.includes(column));
    const one: Column = { name: freeNames(rest)(into), type: 'text', cells, origins };
    const at = sheet.columns
      .filter((column) => keep || !joined.includes(column) || column === joined[0])
      .indexOf(joined[0]);
    return {
      sheet: makeSheet([...rest.slice(0, at), one, ...rest.slice(at)], sheet.rows),
      problems,
      ...(keep ? {} : { leftOut: joined }),
    };
  },
});
