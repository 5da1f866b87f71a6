import * as v from 'valibot';
import { cellText, isError, type Cell } from '../values/cell';
import { familyOf, freeNames, type Column } from '../sheet/column';
import { rowOf } from '../sheet/joined-rows';
import { nowhere } from '../sheet/origin';
import { Rows } from '../sheet/row';
import { sheet as makeSheet } from '../sheet/sheet';
import { field, step, when } from './step';

/** More rows than this do not become columns: a table has no room for them. */
const most = 500;

export const transpose = step({
  kind: 'transpose',
  title: 'Transpose',
  group: 'shape',
  help: 'Rows become columns and columns rows.',
  settings: {
    first: field(v.optional(v.boolean(), true), 'The first column becomes the names'),
    names: field(
      v.optional(v.picklist(['into the first column', 'away']), 'into the first column'),
      'Names of the columns go',
    ),
    into: field(when(v.optional(v.string(), 'Name'), 'names', 'into the first column'), 'Called'),
  },
  commutesWithAppend: false,
  namesFromRows: true,
  describe: ({ first, names }) =>
    `Rows to columns${first ? ', named by the first column' : ''}; names of the columns ${names}`,
  run(sheet, { first, names, into }) {
    const count = sheet.rows.length;
    if (count > most)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: `at most ${most} rows to become columns`,
            came: `${count} rows`,
            remedy: 'Transpose in the zone of each table, or hold rows above.',
          },
        ],
      };
    if (count === 0 || sheet.columns.length === 0) return { sheet };
    const heads = first ? sheet.columns[0] : undefined;
    const turned = first ? sheet.columns.slice(1) : sheet.columns;
    if (turned.length === 0)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'a column beside the names',
            came: 'one column',
            remedy: 'Let the first column be no names.',
          },
        ],
      };
    const alike = turned.every((column) => familyOf(column) === familyOf(turned[0]));
    const free = freeNames(names === 'away' ? [] : [{ name: into }]);
    const label: Column[] =
      names === 'away'
        ? []
        : [
            {
              name: into,
              type: 'text',
              cells: turned.map(({ name }) => name),
              origins: Int32Array.from(turned, ({ namedBy = nowhere }) => namedBy),
            },
          ];
    const made = sheet.rows.map((row): Column => {
      const words = heads?.origins[row] ?? nowhere;
      const text = heads ? cellText(heads.cells[row]).trim() : '';
      return {
        name: free(text || `Row ${row + 1}`),
        ...(words === nowhere ? {} : { namedBy: words }),
        type: !alike ? 'text' : turned.every(({ type }) => type === turned[0].type) ? turned[0].type : 'decimal',
        ...(alike && turned[0].unit !== undefined ? { unit: turned[0].unit } : {}),
        cells: turned.map(({ cells }): Cell =>
          alike || cells[row] === null || isError(cells[row]) ? cells[row] : cellText(cells[row]),
        ),
        origins: Int32Array.from(turned, ({ origins }) => origins[row]),
      };
    });
    // Every row holds a cell of each of the rows before.
    const all = rowOf(sheet.rows.book, [...sheet.rows.numbers]);
    return {
      sheet: makeSheet([...label, ...made], new Rows(sheet.rows.book, new Int32Array(turned.length).fill(all))),
      ...(heads ? { leftOut: [heads] } : {}),
      added: turned.length - count,
    };
  },
});
