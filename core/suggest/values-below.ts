import { isBlank, cellText } from '../values/cell';
import { looksNumeric } from '../values/numeric';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { plural, reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** Columns at the left that are printed once for several rows below. */
export const valuesBelow: Detector = ({ reports }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  if (sheets.length === 0) return [];
  const names: string[] = [];
  for (const { name } of sheets[0].columns) {
    const own = sheets.map((sheet) => printedOnce(sheet, name));
    if (own.includes('never') || own.filter((each) => each === 'yes').length * 2 < own.length) break;
    names.push(name);
  }
  if (names.length === 0 || names.length * 2 > sheets[0].columns.length) return [];
  const blanks = sheets.reduce(
    (sum, sheet) =>
      sum +
      sheet.rows.map((row) => isBlank(sheet.columns.find(({ name }) => name === names[0])!.cells[row])).filter(Boolean)
        .length,
    0,
  );
  return [
    {
      zone: 'eachReport',
      kind: 'carry values',
      settings: { columns: { by: 'names', names }, direction: 'down' },
      reason: `“${names.join('”, “')}” ${names.length === 1 ? 'is' : 'are'} printed once for the rows below: ${plural(blanks, 'row')} without`,
    },
  ];
};

/** Filled in the first row, and blank only where the row says more than a line that goes on. "may be": it is blank nowhere. */
function printedOnce(sheet: Sheet, name: string): 'yes' | 'may be' | 'never' {
  const column = sheet.columns.find((each) => each.name === name);
  if (!column || isBlank(column.cells[0])) return 'never';
  const blank = sheet.rows.map((row) => row).filter((row) => isBlank(column.cells[row]));
  // Numbers are not repeated by leaving them out.
  if (column.cells.filter((cell) => !isBlank(cell)).every((cell) => /^[\d.,]+$/.test(cellText(cell)))) return 'never';
  // A total that is still there is not one of the rows below.
  if (!blank.every((row) => sheet.rows.role(row) === 'body' && saysMore(sheet, row))) return 'never';
  return blank.length > 0 ? 'yes' : 'may be';
}

/** Does a row fill as many columns as a row does, or have an amount beside a text? A line that goes on does neither. */
function saysMore(sheet: Sheet, row: number): boolean {
  const filled = filledColumns(sheet, row);
  const texts = filled.map((at) => cellText(sheet.columns[at].cells[row]));
  return filled.length * 2 >= sheet.columns.length || (texts.some(looksNumeric) && !texts.every(looksNumeric));
}
