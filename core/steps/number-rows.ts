import * as v from 'valibot';
import { nowhere } from '../sheet/origin';
import { freeName, sheet as makeSheet } from '../sheet/sheet';
import { field, step } from './step';

export const numberRows = step({
  kind: 'number rows',
  title: 'Number rows',
  group: 'columns',
  help: 'Counts the rows in a column in front: over all, or anew for each report or table.',
  settings: {
    name: field(v.optional(v.string(), 'Row'), 'Column'),
    from: field(v.optional(v.pipe(v.number(), v.integer()), 1), 'From'),
    anew: field(v.optional(v.picklist(['never', 'each report', 'each table']), 'each report'), 'Begins anew'),
  },
  commutesWithAppend: false,
  describe: ({ name, from, anew }) => `${name} from ${from}${anew === 'never' ? '' : `, anew for ${anew}`}`,
  run(sheet, { name, from, anew }) {
    let count = from - 1;
    const cells = sheet.rows.map((mark, row) => {
      const before = sheet.rows[row - 1];
      const again = before && anew !== 'never' && (mark.report !== before.report || (anew === 'each table' && mark.table !== before.table));
      return (count = again ? from : count + 1);
    });
    return { sheet: makeSheet([{ name: freeName(sheet.columns.map((column) => column.name), name || 'Row'), type: 'integer', cells, origins: new Int32Array(cells.length).fill(nowhere) }, ...sheet.columns], sheet.rows) };
  },
});
