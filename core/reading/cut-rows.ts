import { around, width } from '../page/box';
import { linesOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { looksNumeric } from '../values/numeric';
import type { GridCell, Piece, Reading } from './found-table';
import { usualSpace } from './phrases';

/**
 * A piece that goes on overleaf, its first row marked where it is the end of the last row before, which the page cuts. Much speaks for
 * it: words in lower case alone, beside a blank first column, under texts of that row; and it lacks the amount that every row has, or
 * its words had found no room on the lines above.
 */
export function withCutRow(last: Piece, next: Piece, before: PageContent, page: PageContent): Piece {
  const [a] = last.readings;
  const [b, ...others] = next.readings;
  const at = b.headingRows;
  if (a.columns.length !== b.columns.length || !goesOn(a, b, before, page)) return next;
  return {
    ...next,
    readings: [{ ...b, rows: b.rows.map((row, i) => (i === at ? { ...row, goesOn: true as const } : row)) }, ...others],
  };
}

function goesOn(a: Reading, b: Reading, before: PageContent, page: PageContent): boolean {
  const own = b.cells.filter(({ row }) => row === b.headingRows);
  const end = a.cells.filter(({ row }) => row === a.rows.length - 1);
  if (b.rows[b.headingRows]?.role !== 'body' || a.rows.at(-1)?.role !== 'body') return false;
  if (
    own.length === 0 ||
    own.length * 2 > b.columns.length ||
    !own.every(({ column, columnSpan, text }) => column > 0 && columnSpan === 1 && /^\p{Ll}/u.test(text))
  )
    return false;
  const above = own.map(({ column }) =>
    end.find((cell) => cell.column === column && cell.columnSpan === 1 && !looksNumeric(cell.text)),
  );
  if (above.includes(undefined)) return false;
  const amounts = new Set(
    a.cells.filter(({ row, text }) => row >= a.headingRows && looksNumeric(text)).map(({ row }) => row),
  );
  const lacksAmount = a.rows.every(({ role }, row) => role !== 'body' || amounts.has(row));
  return lacksAmount || own.every((cell, i) => foundNoRoom(a, above[i]!, before, page, cell));
}

/** Would the first word of a text have been too wide for the last line of the text above, in a column as wide as its widest line? */
function foundNoRoom(a: Reading, above: GridCell, before: PageContent, page: PageContent, cell: GridCell): boolean {
  const widths = ({ words }: GridCell) =>
    linesOf(before.words, words).map(({ words: line }) => width(around(line.map((w) => before.words[w].box))!));
  const widest = Math.max(
    ...a.cells
      .filter(({ column, columnSpan, row }) => column === cell.column && columnSpan === 1 && row >= a.headingRows)
      .flatMap(widths),
  );
  const first = page.words[cell.words[0]];
  return widths(above).at(-1)! + usualSpace * first.fontSize + width(first.box) > widest - 0.5;
}
