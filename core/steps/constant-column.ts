import * as v from 'valibot';
import { freeNames, madeColumn } from '../sheet/column';
import { sheet as makeSheet } from '../sheet/sheet';
import { field, step } from './step';

export const constantColumn = step({
  kind: 'constant column',
  title: 'Constant column',
  group: 'columns',
  help: 'Puts a column in front that has the same text on every row.',
  settings: {
    name: field(v.optional(v.string(), 'Constant'), 'Column'),
    value: field(v.optional(v.string(), ''), 'Text'),
  },
  commutesWithAppend: true,
  describe: ({ name, value }) => `${name}: ${value || 'blank'}`,
  run: (sheet, { name, value }) => ({
    sheet: makeSheet(
      [
        madeColumn(
          freeNames(sheet.columns)(name || 'Constant'),
          sheet.rows.map(() => value || null),
        ),
        ...sheet.columns,
      ],
      sheet.rows,
    ),
  }),
});
