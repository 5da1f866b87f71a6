import * as v from 'valibot';
import { isBlank, type Cell } from '../values/cell';
import { sheet as makeSheet } from '../sheet/sheet';
import type { Problem } from '../sheet/problem';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { areByRow, condition, describeCondition, neededBy, testOf } from './conditions';
import { field, type Overwritten, step, widget } from './step';

export const closeGaps = step({
  kind: 'close gaps',
  title: 'Close gaps',
  group: 'values',
  help: 'In the columns chosen values move over blanks to one side, where they slipped into a neighbour.',
  settings: {
    columns: field(columnChoice, 'In'),
    to: field(v.optional(v.picklist(['the left', 'the right']), 'the left'), 'To'),
    where: field(
      widget(v.optional(v.array(condition), []), { widget: 'conditions' }),
      'Only where',
      'Conditions that must all be true of the row.',
    ),
  },
  commutesWithAppend: ({ where }) => areByRow(where),
  needs: ({ where }) => neededBy(where),
  describe: ({ columns, to, where }) =>
    `${describeChoice(columns)} to ${to}${where.length > 0 ? ` where ${where.map(describeCondition).join(' and ')}` : ''}`,
  run(sheet, { columns, to, where }, { papers }) {
    const { columns: moving, problems } = chosen(sheet, columns);
    const tests = where.map((each) => testOf(sheet, each, papers));
    const missing = tests.filter((test): test is Problem => typeof test !== 'function');
    if (missing.length > 0) return { sheet, problems: [...problems, ...missing] };
    const asked = tests.filter((test) => typeof test === 'function');
    const cells = moving.map((column) => [...column.cells]);
    const origins = moving.map((column) => Int32Array.from(column.origins));
    const changed = moving.map((): number[] => []);
    for (let row = 0; row < sheet.rows.length; row++) {
      if (asked.some((test) => !test(row))) continue;
      const filled = moving.flatMap((column, i) => (isBlank(column.cells[row]) ? [] : [i]));
      const start = to === 'the left' ? 0 : moving.length - filled.length;
      moving.forEach((column, i) => {
        const from = filled[i - start];
        const cell: Cell = from === undefined ? null : moving[from].cells[row];
        if (from === i || (from === undefined && isBlank(column.cells[row]))) return;
        cells[i][row] = cell;
        origins[i][row] = from === undefined ? -1 : moving[from].origins[row];
        changed[i].push(row);
      });
    }
    const overwritten = moving.flatMap((column, i): Overwritten[] =>
      changed[i].length > 0
        ? [
            {
              column: column.name,
              rows: changed[i],
              old: changed[i].map((row) => column.cells[row]),
              why: `moved to ${to}`,
            },
          ]
        : [],
    );
    return {
      sheet: makeSheet(
        sheet.columns.map((column) =>
          moving.includes(column)
            ? { ...column, cells: cells[moving.indexOf(column)], origins: origins[moving.indexOf(column)] }
            : column,
        ),
        sheet.rows,
      ),
      overwritten,
      problems,
    };
  },
});
