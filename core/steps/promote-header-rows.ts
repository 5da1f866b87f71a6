import * as v from 'valibot';
import { cellText, isBlank } from '../sheet/cell';
import { nowhere } from '../sheet/origin';
import { freeName, rowsAt, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { field, step } from './step';

export const promoteHeaderRows = step({
  kind: 'promote header rows',
  title: 'Promote header rows',
  group: 'columns',
  help: 'The first rows become the column names and are held.',
  settings: {
    rows: field(v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 0), 'Rows', '0: as many as are marked as heading.'),
    spread: field(v.optional(v.boolean(), true), 'Spread spans', 'A heading over several columns is part of each name.'),
    joiner: field(v.optional(v.string(), ' '), 'Join with'),
  },
  commutesWithAppend: false,
  describe: ({ rows, joiner }) => `${rows === 0 ? 'Rows marked as heading' : `${rows} ${rows === 1 ? 'row' : 'rows'}`}, joined with ${joiner === ' ' ? 'a space' : `“${joiner}”`}`,
  run(sheet, { rows, spread, joiner }) {
    const marked = sheet.rows.findIndex((row) => row.role !== 'heading');
    const count = rows > 0 ? Math.min(rows, sheet.rows.length) : marked < 0 ? sheet.rows.length : marked;
    if (count === 0)
      return {
        sheet,
        problems: [{ kind: 'step', expected: 'rows marked as heading at the top', came: 'none', remedy: 'Say how many rows are the heading.' }],
      };
    const names = namesFrom(sheet, count, spread, joiner);
    const renamed = makeSheet(sheet.columns.map((column, i) => ({ ...column, name: names[i] })), sheet.rows);
    const places = sheet.rows.map((_, i) => i);
    return {
      sheet: rowsAt(renamed, places.slice(count)),
      held: { rows: rowsAt(sheet, places.slice(0, count)), reasons: places.slice(0, count).map(() => 'became the column names') },
    };
  },
});

/** The name of each column: its heading texts from top to bottom; a blank under a span takes the span's text. */
function namesFrom(sheet: Sheet, count: number, spread: boolean, joiner: string): string[] {
  const names: string[] = [];
  sheet.columns.forEach((column, at) => {
    const parts: string[] = [];
    for (let row = 0; row < count; row++) {
      const text = cellText(column.cells[row]).trim();
      const spanned = spread && isBlank(column.cells[row]) ? spannedText(sheet, row, at) : '';
      const part = text || spanned;
      if (part && parts.at(-1) !== part) parts.push(part);
    }
    const wanted = parts.join(joiner).replace(/\s+/g, ' ') || column.name;
    // Doubled names are told apart by what stands before them.
    names.push(names.includes(wanted) && at > 0 ? freeName(names, `${wanted} after ${names[at - 1]}`) : wanted);
  });
  return names;
}

/** The text of the cell to the left whose span covers this one: they come from the same words. */
function spannedText(sheet: Sheet, row: number, at: number): string {
  const origin = sheet.columns[at].origins[row];
  if (origin === nowhere) return '';
  const head = sheet.columns.slice(0, at).findLast((column) => column.origins[row] === origin && !isBlank(column.cells[row]));
  return head ? cellText(head.cells[row]).trim() : '';
}
