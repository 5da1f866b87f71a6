import { cellText, isBlank } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { plural, reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** Lines that go on from the row above: only words, in columns that are words there, and blank where every other row is filled. */
export const continuedLines: Detector = ({ reports }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  const going = sheets.map((sheet) => sheet.rows.map((row) => row).filter((row) => goesOn(sheet, row)));
  const count = going.reduce((sum, rows) => sum + rows.length, 0);
  if (count === 0) return [];
  const names = sheets[0].columns.map(({ name }) => name);
  const keys = names.filter((name) =>
    sheets.every((sheet, i) => {
      const column = sheet.columns.find((each) => each.name === name);
      const own = new Set(going[i]);
      return (
        column !== undefined && sheet.rows.map((row) => row).every((row) => isBlank(column.cells[row]) === own.has(row))
      );
    }),
  );
  if (keys.length === 0) return [];
  const i = going.findIndex((rows) => rows.length > 0);
  const at = filledColumns(sheets[i], going[i][0])[0];
  return [
    {
      zone: 'eachReport',
      kind: 'fold lines',
      settings: { keys: { by: 'names', names: keys }, into: 'the row above', joiner: ' ' },
      reason: `${plural(count, 'line goes', 'lines go')} on from the row above, such as “${cellText(sheets[i].columns[at].cells[going[i][0]])}”`,
    },
  ];
};

/** Filled cells that a line which goes on has at most. */
const mostFilled = 2;

function goesOn(sheet: Sheet, row: number): boolean {
  if (row === 0 || !sheet.rows.inSameTable(row, row - 1) || sheet.rows.role(row) !== 'body') return false;
  const filled = filledColumns(sheet, row);
  if (
    filled.length === 0 ||
    filled.length > mostFilled ||
    filled.length * 2 >= sheet.columns.length ||
    filled.includes(0)
  )
    return false;
  return filled.every((at) => /\p{L}/u.test(cellText(sheet.columns[at].cells[row])));
}
