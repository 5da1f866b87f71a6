import type { Sheet } from '../sheet/sheet';
import { chosen, type ColumnChoice } from '../steps/column-choice';
import type { Paper } from '../steps/step';
import { cellText } from '../values/cell';
import { baseName } from '../values/file-name';

/** What is printed elsewhere for the rows of a sheet, as a stamp may read it. */
export interface PrintSource {
  readonly by: 'print';
  readonly from: 'file name' | 'table title' | 'page text';
}

/** The values that come most often first, each with how often; blanks are counted apart. */
export interface ValueCounts {
  readonly values: readonly { readonly text: string; readonly count: number }[];
  readonly different: number;
  readonly blanks: number;
  readonly rows: number;
}

/** Different values that are listed one by one; the rest is counted. */
const mostValues = 500;

/** The different values in some columns of a sheet, or what is printed elsewhere for its rows. */
export function valueCounts(sheet: Sheet, paper: Paper, of: ColumnChoice | PrintSource): ValueCounts {
  const texts =
    of.by === 'print'
      ? printedFor(sheet, paper, of.from)
      : chosen(sheet, of).columns.flatMap((column) => column.cells.map(cellText));
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  const blanks = counts.get('') ?? 0;
  counts.delete('');
  const sorted = [...counts]
    .map(([text, count]) => ({ text, count }))
    .sort((a, b) => b.count - a.count || (a.text < b.text ? -1 : 1));
  return { values: sorted.slice(0, mostValues), different: sorted.length, blanks, rows: sheet.rows.length };
}

/** The file name, the titles of the tables, or the lines of the pages that rows come from, each once. */
function printedFor({ rows }: Sheet, paper: Paper, from: PrintSource['from']): string[] {
  if (from === 'file name') return [baseName(paper.path)];
  if (from === 'table title')
    return [...new Set(rows.map(rows.table))].flatMap((table) => paper.title(table)?.text ?? []);
  return [...new Set(rows.map(rows.page))].flatMap((page) => paper.lines(page).map((line) => line.text));
}
