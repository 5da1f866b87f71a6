import { overlap } from '../page/box';
import { endsInHyphen } from '../page/lines';
import type { FoundTable, Reading } from '../reading/found-table';
import { cellText, type Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { freeNames, type Column } from '../sheet/column';
import { Rows, type RowBook } from '../sheet/row';
import { sheet, type Sheet } from '../sheet/sheet';
import type { Taken } from './take';

/** What a rule took, as a sheet. @param report key of the report @param book takes down the rows and their words */
export const takenSheet = (taken: Taken, report: string, book: RowBook): { sheet: Sheet; problems: Problem[] } =>
  'table' in taken ? tableSheet(taken.table, report, book) : { sheet: labelSheet(taken, report, book), problems: [] };

/** One row of labelled values, in columns of their names. */
function labelSheet({ match, values }: Extract<Taken, { values: unknown }>, report: string, book: RowBook): Sheet {
  const free = freeNames();
  const columns = values.map(({ name, value }): Column => ({
    name: free(name),
    type: 'text',
    cells: [value?.text ?? null],
    origins: Int32Array.of(value ? book.origins.intern(report, value.page, value.words) : nowhere),
  }));
  const row = book.add(
    { report, table: match.table, page: match.pages[0], role: 'body', indent: 0, bold: false, shaded: false },
    0,
  );
  return sheet(columns, new Rows(book, Int32Array.of(row)));
}

/**
 * A table as a sheet by the first reading of its pieces, which are joined: columns `Column 1` to n, every cell with the words it comes from. A cell
 * covered by a span is blank but comes from the same words as the cell that spans it.
 * @param report key of the report
 * @param book takes down the rows and their words
 */
export function tableSheet(table: FoundTable, report: string, book: RowBook): { sheet: Sheet; problems: Problem[] } {
  const chosen = table.pieces.map((piece) => piece.readings[0]);
  const widest = chosen.reduce((most, next) => (next.columns.length > most.columns.length ? next : most));
  const problems: Problem[] = [];
  const goingOn = chosen.map((own, p) => (p === 0 ? -1 : own.rows.findIndex((row) => row.goesOn === true)));
  const length = chosen.reduce((sum, own) => sum + own.rows.length, 0) - goingOn.filter((row) => row >= 0).length;
  const cells = widest.columns.map(() => new Array<Cell>(length).fill(null));
  const ids = widest.columns.map(() => new Int32Array(length).fill(nowhere));
  const rows = new Int32Array(length);
  let first = 0;
  /** Rows of the sheet so far: what goes on from the page before is of the last of them. */
  let placed = 0;
  table.pieces.forEach((piece, p) => {
    const own = chosen[p];
    const places = columnPlaces(own, widest);
    if (!places)
      problems.push({
        kind: 'drift',
        report,
        page: piece.page,
        table: table.id,
        expected: `the ${widest.columns.length} columns of the table's other pages`,
        came: `${own.columns.length} columns in other places`,
        remedy: 'Look at this page and choose another reading for it; its columns were filled from the left.',
      });
    const place = (column: number) => (places ? places[column] : column);
    const before = placed - 1;
    const positions = own.rows.map((_, r) => (r === goingOn[p] ? before : placed++));
    own.rows.forEach((row, r) => {
      if (positions[r] === before) return;
      rows[positions[r]] = book.add(
        {
          report,
          table: table.id,
          page: piece.page,
          role: row.role,
          indent: row.indent,
          bold: row.bold,
          shaded: row.shaded,
          spaced: row.spaced ?? false,
          ruled: row.ruled ?? false,
        },
        first + r,
      );
    });
    for (const cell of own.cells) {
      const id = book.origins.intern(report, piece.page, cell.words);
      const at = positions[cell.row];
      if (at === before) {
        const column = place(cell.column);
        const text = cellText(cells[column][at]);
        cells[column][at] = `${text}${text === '' || endsInHyphen.test(text) ? '' : ' '}${cell.text}`;
        ids[column][at] = book.origins.union([ids[column][at], id]);
        continue;
      }
      if (cell.text !== '') cells[place(cell.column)][at] = cell.text;
      for (let r = cell.row; r < Math.min(cell.row + cell.rowSpan, own.rows.length); r++)
        for (let c = cell.column; c < Math.min(cell.column + cell.columnSpan, own.columns.length); c++)
          if ((r === cell.row && c === cell.column) || ids[place(c)][positions[r]] === nowhere)
            ids[place(c)][positions[r]] = id;
    }
    first += own.rows.length;
  });
  const columns = widest.columns.map((_, c): Column => ({
    name: `Column ${c + 1}`,
    type: 'text',
    cells: cells[c],
    origins: ids[c],
  }));
  return { sheet: sheet(columns, new Rows(book, rows)), problems };
}

/** Which column of `wide` each column of `own` is, by where it stands; undefined when two fall into one. */
function columnPlaces(own: Reading, wide: Reading): number[] | undefined {
  if (own.columns.length === wide.columns.length) return own.columns.map((_, i) => i);
  const places = own.columns.map(([left, right]) =>
    wide.columns.reduce(
      (best, [l, r], i) =>
        overlap(left, right, l, r) > overlap(left, right, wide.columns[best][0], wide.columns[best][1]) ? i : best,
      0,
    ),
  );
  return new Set(places).size === places.length ? places : undefined;
}
