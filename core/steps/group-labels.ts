import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { sheet as makeSheet } from '../sheet/sheet';
import { columnFrom, columnNamed, freeNames, missingColumn } from '../sheet/column';
import { wildcard } from './wildcard';
import { field, step, widget } from './step';

export const groupLabels = step({
  kind: 'group labels',
  title: 'Group labels',
  group: 'columns',
  help: 'Puts the category of a value into a column of its own. Run it again on that column for a level above.',
  settings: {
    column: field(widget(v.string(), { widget: 'column' }), 'Values in'),
    into: field(v.optional(v.string(), 'Category'), 'Into column'),
    groups: field(
      v.array(
        v.object({
          category: field(v.string(), 'Category'),
          values: field(
            widget(v.array(v.string()), { widget: 'values', of: 'column' }),
            'Values',
            'A * stands for any text.',
          ),
        }),
      ),
      'Categories',
    ),
    others: field(v.optional(v.string(), ''), 'Values in none'),
  },
  commutesWithAppend: true,
  describe: ({ column, into, groups }) =>
    `${column} into ${into}: ${groups.map(({ category }) => category).join(', ') || 'no categories yet'}`,
  run(sheet, { column: name, into, groups, others }) {
    const column = columnNamed(sheet, name);
    if (!column) return { sheet, problems: [missingColumn(sheet, name)] };
    const tests = groups.map(({ category, values }) => ({ category, patterns: values.map(wildcard) }));
    const cells = column.cells.map((cell): Cell => {
      if (isBlank(cell)) return null;
      const text = cellText(cell).trim();
      return tests.find(({ patterns }) => patterns.some((pattern) => pattern.test(text)))?.category ?? (others || null);
    });
    const grouped = columnFrom(column, freeNames(sheet.columns)(into), cells);
    return {
      sheet: makeSheet(
        sheet.columns.flatMap((each) => (each === column ? [grouped, each] : [each])),
        sheet.rows,
      ),
    };
  },
});
