import * as v from 'valibot';
import { nowhere } from '../sheet/origin';
import { freeName, sheet as makeSheet } from '../sheet/sheet';
import { field, step } from './step';

export const constantColumn = step({
  kind: 'constant column',
  title: 'Constant column',
  group: 'columns',
  help: 'Puts a column in front that has the same text on every row.',
  settings: { name: field(v.optional(v.string(), 'Constant'), 'Column'), value: field(v.optional(v.string(), ''), 'Text') },
  commutesWithAppend: true,
  describe: ({ name, value }) => `${name}: ${value || 'blank'}`,
  run: (sheet, { name, value }) => ({
    sheet: makeSheet(
      [{ name: freeName(sheet.columns.map((column) => column.name), name || 'Constant'), type: 'text', cells: sheet.rows.map(() => value || null), origins: new Int32Array(sheet.rows.length).fill(nowhere) }, ...sheet.columns],
      sheet.rows,
    ),
  }),
});
