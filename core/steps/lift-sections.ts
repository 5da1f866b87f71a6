import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../sheet/cell';
import { nowhere } from '../sheet/origin';
import { filledColumns, freeName, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { wildcard } from './column-choice';
import { field, hold, step } from './step';

export const lifts = ['one filled cell', 'marked as section', 'bold', 'pattern'] as const;

export const liftSections = step({
  kind: 'lift sections',
  title: 'Lift sections',
  group: 'rows',
  help: 'Rows that only say the section become a column carried down over the rows below them.',
  settings: {
    into: field(v.pipe(v.string(), v.minLength(1)), 'Into column'),
    known: field(v.optional(v.picklist(lifts), 'one filled cell'), 'A section row has'),
    pattern: field(v.optional(v.string(), '*'), 'Text is like', 'A * stands for any text.'),
  },
  commutesWithAppend: false,
  describe: ({ into, known }) => `Rows with ${known} into ${into}`,
  run(sheet, { into, known, pattern }) {
    const like = wildcard(pattern);
    const labelAt = sheet.rows.map((mark, row): number | undefined => {
      const filled = filledColumns(sheet, row);
      const at = filled[0];
      if (at === undefined || !like.test(cellText(sheet.columns[at].cells[row]))) return undefined;
      const one = filled.length === 1 && at === 0;
      const bySight = { 'one filled cell': one, 'marked as section': mark.role === 'section', bold: one && mark.bold, pattern: true };
      return bySight[known] ? at : undefined;
    });
    const lifted = withLabels(sheet, freeName(sheet.columns.map((column) => column.name), into), labelAt);
    const result = hold(lifted, (row) => (labelAt[row] === undefined ? undefined : `section label, carried into ${into}`));
    return labelAt.some((at) => at !== undefined)
      ? result
      : { ...result, problems: [{ kind: 'step', expected: 'rows that are a section label', came: 'none', remedy: 'Choose another way to know a section row.' }] };
  },
});

/** The sheet with the label of the section above each row in a new first column. */
function withLabels(sheet: Sheet, name: string, labelAt: readonly (number | undefined)[]): Sheet {
  const cells: Cell[] = [];
  const origins = new Int32Array(sheet.rows.length);
  let label: Cell = null;
  let origin = nowhere;
  labelAt.forEach((at, row) => {
    if (row > 0 && sheet.rows[row].report !== sheet.rows[row - 1].report) {
      label = null;
      origin = nowhere;
    }
    if (at !== undefined) {
      label = sheet.columns[at].cells[row];
      origin = sheet.columns[at].origins[row];
    }
    cells.push(isBlank(label) ? null : label);
    origins[row] = origin;
  });
  return makeSheet([{ name, type: 'text', cells, origins }, ...sheet.columns], sheet.rows);
}
