import * as v from 'valibot';
import { freeNames, madeColumn } from '../sheet/column';
import { sheet as makeSheet } from '../sheet/sheet';
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
    const { rows } = sheet;
    const cells = rows.map((row) => {
      const again =
        row > 0 &&
        anew !== 'never' &&
        !(anew === 'each table' ? rows.inSameTable(row, row - 1) : rows.inSameReport(row, row - 1));
      return (count = again ? from : count + 1);
    });
    return {
      sheet: makeSheet([madeColumn(freeNames(sheet.columns)(name || 'Row'), cells, 'integer'), ...sheet.columns], rows),
    };
  },
});
