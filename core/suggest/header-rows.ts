import { cellText, isBlank } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import { headingDepth, isNamed, mostCommon, plural, share, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

/** Rows at the top of the tables that name the columns. */
export const headerRows: Detector = ({ reports, pipeline }) => {
  // Lines that become records have their columns from these.
  if (pipeline.eachReport.some(({ kind }) => kind === 'lines to records')) return [];
  const tables = reports.flatMap(tablesOf).filter(({ rows }) => rows.length > 0);
  // Lines of text in one column have no heading.
  if (tables.length === 0 || tables.some(isNamed) || tables.every(({ columns }) => columns.length < 2)) return [];
  const depths = tables.map(headingDepth).filter((depth) => depth > 0);
  const depth = mostCommon(depths);
  if (depth === undefined)
    return tables.every(startsWithWords)
      ? [
          promoted(
            1,
            `the first row of ${share(tables.length, tables.length, 'table')} has words above columns of numbers`,
          ),
        ]
      : [];
  // Where they have heading rows in different numbers, each its own.
  const same = depths.every((each) => each === depth);
  return [
    promoted(
      same ? depth : 0,
      `the first ${same ? (depth === 1 ? 'row' : plural(depth, 'row')) : 'rows'} of ${share(depths.length, tables.length, 'table')} ${depth === 1 && same ? 'is the heading' : 'are the heading'}`,
    ),
  ];
};

const promoted = (rows: number, reason: string) => ({
  zone: 'eachTable' as const,
  kind: 'promote header rows',
  settings: { rows, spread: true, joiner: ' ' },
  reason,
});

const hasDigit = (text: string) => /\d/.test(text);

/** Words in every filled cell of the first row, digits below most of them. */
function startsWithWords(table: Sheet): boolean {
  if (table.rows.length < 3) return false;
  const filled = table.columns.filter(({ cells }) => !isBlank(cells[0]));
  if (filled.length * 2 < table.columns.length || filled.some(({ cells }) => hasDigit(cellText(cells[0]))))
    return false;
  return filled.some(
    ({ cells }) => cells.slice(1).filter((cell) => hasDigit(cellText(cell))).length * 2 > cells.length - 1,
  );
}
