import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import type { Problem } from '../sheet/problem';
import { sheet as makeSheet } from '../sheet/sheet';
import { template, templateText } from '../values/template';
import { columnFrom, columnNamed, freeNames, missingColumn } from '../sheet/column';
import { field, step, widget } from './step';

export const pullText = step({
  kind: 'pull text',
  title: 'Pull text',
  group: 'columns',
  help: 'Takes parts of a text out by a template: each {hole} becomes a column, as {Code} - {Name}.',
  settings: {
    column: field(widget(v.string(), { widget: 'column' }), 'Column'),
    template: field(
      widget(v.optional(templateText, ''), { widget: 'template', of: 'column' }),
      'Template',
      'Like {Code} - {Name}; [..] may be missing.',
    ),
  },
  commutesWithAppend: true,
  describe: ({ column, template: text }) => `${text || 'No template yet'} out of ${column || '(no column yet)'}`,
  run(sheet, { column: name, template: text }) {
    const column = columnNamed(sheet, name);
    if (!column) return { sheet, problems: [missingColumn(sheet, name)] };
    if (text === '') return { sheet };
    const parts = template(text);
    const found = column.cells.map((cell) => (isBlank(cell) ? undefined : parts.within(cellText(cell))?.values));
    const misses = column.cells.findIndex((cell, row) => !isBlank(cell) && !found[row]);
    const free = freeNames(sheet.columns);
    const made = parts.holes.map((hole) =>
      columnFrom(
        column,
        free(hole),
        found.map((values): Cell => values?.[hole] ?? null),
      ),
    );
    const problem: Problem[] =
      misses < 0
        ? []
        : [
            {
              kind: 'step',
              column: column.name,
              report: sheet.rows.report(misses),
              page: sheet.rows.page(misses),
              row: sheet.rows.id(misses),
              expected: `texts like “${text}”`,
              came: `“${cellText(column.cells[misses])}”`,
              remedy: 'Change the template so that it fits this text too; its parts are blank there.',
            },
          ];
    return {
      sheet: makeSheet(
        sheet.columns.flatMap((each) => (each === column ? [each, ...made] : [each])),
        sheet.rows,
      ),
      problems: problem,
    };
  },
});
