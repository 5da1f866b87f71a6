import { cellText } from '../values/cell';
import { locales } from '../values/locale';
import { workOut } from '../values/work-out';
import { rowsAt, type Sheet } from '../sheet/sheet';
import { exactSum } from '../values/exact';
import { reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** So many columns before it make a column a total across, in so many rows at least. */
const fewestColumns = 3;
const fewestRows = 5;
const inMost = 0.9;

/** Columns that add up those before them: totals across the page, which are amounts twice once the others become rows. */
export const rowTotals: Detector = (seen) => {
  const sheets = sampled(seen.reports.map(reportSheet).filter(({ rows }) => rows.length > 0));
  const locale = locales[seen.locale()];
  if (sheets.length === 0 || sheets[0].columns.length < fewestColumns + 2) return [];
  const names = sheets[0].columns.map(({ name }) => name);
  const found = names.filter((name) => {
    const own = sheets.map((sheet) =>
      addsUp(sheet, name, (column, texts) => workOut({ name: column, texts }, locale).values),
    );
    // Few rows of one report tell little, those of all together more.
    const starts = own.flatMap((each) => (each ? [each] : []));
    return (
      starts.length === own.length &&
      [0, 1].some((start) => {
        const equal = starts.reduce((sum, each) => sum + each[start].equal, 0);
        const compared = starts.reduce((sum, each) => sum + each[start].compared, 0);
        return compared >= fewestRows && equal >= inMost * compared;
      })
    );
  });
  if (found.length === 0) return [];
  return [
    {
      zone: 'eachReport',
      kind: 'pick columns',
      settings: { columns: { by: 'all but', names: found } },
      name: 'Leave row totals out',
      reason: `“${found.join('”, “')}” ${found.length === 1 ? 'adds' : 'add'} up the columns before`,
    },
  ];
};

/** Enough rows of enough reports: what adds up in all of them is no accident. */
const mostRows = 40;
const mostReports = 6;
const sampled = (sheets: readonly Sheet[]): Sheet[] => {
  const each = Math.max(1, Math.ceil(sheets.length / mostReports));
  return sheets
    .filter((_, i) => i % each === 0)
    .map((sheet) =>
      rowsAt(
        sheet,
        Array.from({ length: Math.min(mostRows, sheet.rows.length) }, (_, row) => row),
      ),
    );
};

/** In how many rows a column adds up those before it, from the first number on or from the next; undefined where the sheet has no such column. */
function addsUp(
  { columns, rows }: Sheet,
  name: string,
  read: (column: string, texts: readonly (string | null)[]) => readonly unknown[],
): readonly { readonly equal: number; readonly compared: number }[] | undefined {
  const at = columns.findIndex((column) => column.name === name);
  if (at < 0) return undefined;
  const numbers = columns.slice(0, at + 1).map((column) =>
    read(
      column.name,
      column.cells.map((cell) => (cell === null ? null : cellText(cell))),
    ),
  );
  // Blanks are days without any.
  const isNumbers = (values: readonly unknown[]) =>
    values.filter((value) => typeof value === 'number').length * 2 > values.filter((value) => value !== null).length;
  let from = at;
  while (from > 0 && isNumbers(numbers[from - 1])) from--;
  const none = { equal: 0, compared: 0 };
  if (!isNumbers(numbers[at])) return [none, none];
  // A number of the day, or of the line, is none of the amounts: the sum may begin one column later.
  return [from, from + 1].map((first) => {
    if (at - first < fewestColumns) return none;
    let [equal, compared] = [0, 0];
    for (let row = 0; row < rows.length; row++) {
      const total = numbers[at][row];
      if (typeof total !== 'number') continue;
      const parts = numbers
        .slice(first, at)
        .map((values) => values[row])
        .filter((value) => typeof value === 'number');
      if (parts.length < 2) continue;
      compared++;
      if (exactSum(parts) === total) equal++;
    }
    return { equal, compared };
  });
}
