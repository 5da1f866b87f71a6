import type { Sheet } from '../sheet/sheet';
import { isBlank } from '../values/cell';
import { isNamed, plural, printedWords, tablesOf } from './sheets-seen';
import type { Detector, SeenReport } from './suggestion';

/** A space is about a quarter to a third of the size of its type; columns are wider apart. */
const widestSpace = 0.5;
const leastRows = 3;
/** In nearly all rows that have both. */
const nearlyAll = 0.95;

/** Columns without a heading whose texts stand a mere space behind those of the column before: one column that reading tore apart, such as telephone numbers. */
export const tornColumns: Detector = ({ reports }) => {
  const groups = reports.flatMap((report) =>
    tablesOf(report)
      .filter((table) => table.rows.length > 0 && isNamed(table))
      .flatMap((table) => tornIn(table, report)),
  );
  const keys = groups.map((names) => JSON.stringify(names));
  const torn = [...new Set(keys)]
    .filter((key) => keys.filter((each) => each === key).length * 2 >= reports.length)
    .map((key) => JSON.parse(key) as string[]);
  return torn.map((names) => ({
    zone: 'eachTable',
    kind: 'concatenate columns',
    settings: { columns: { by: 'names', names }, joiner: ' ', into: names[0] },
    name: `Join ${names[0]} again`,
    reason: `${plural(names.length - 1, 'column')} without a heading ${names.length === 2 ? 'stands' : 'stand'} a mere space behind “${names[0]}”`,
  }));
};

/** The names of each column that was torn apart, its own first. */
function tornIn(table: Sheet, report: SeenReport): string[][] {
  const groups: string[][] = [];
  const words = printedWords(report);
  const wordsOf = (column: number, row: number) => words(table, table.columns[column].origins[row]);
  table.columns.forEach((column, c) => {
    const before = table.columns[c - 1];
    if (
      !before ||
      column.namedBy !== undefined ||
      (before.namedBy === undefined && groups.at(-1)?.at(-1) !== before.name)
    )
      return;
    const gaps = table.rows
      .map((row) => row)
      .flatMap((row) => {
        if (isBlank(column.cells[row])) return [];
        const [left, right] = [wordsOf(c - 1, row).at(-1), wordsOf(c, row)[0]];
        // Texts that begin on another line, or alone, are a column of their own.
        return [
          left && right && Math.abs(left.baseline - right.baseline) < 0.5 * right.fontSize
            ? (right.box[0] - left.box[2]) / right.fontSize
            : Infinity,
        ];
      });
    if (gaps.length < leastRows || gaps.filter((gap) => gap <= widestSpace).length < nearlyAll * gaps.length) return;
    if (groups.at(-1)?.at(-1) === before.name) groups.at(-1)!.push(column.name);
    else groups.push([before.name, column.name]);
  });
  return groups;
}
