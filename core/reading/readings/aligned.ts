import type { Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { faultsInWords, soundness } from '../faults';
import type { Layout } from '../layout';
import type { ReadingName, ReadRegion } from '../found-table';
import { asReading } from '../grid';
import { gridOfBands, viewOf } from '../region-view';
import { bandsByKey, bandsByLeading, bandsByLine, doubtfulRows, doubtIn, type Band } from '../rows';

type RowsOf = (page: PageContent, lines: readonly Line[], layout: Layout) => Band[];

/**
 * @param how how the rows are told, for the reason
 * @param nth which hypothesis of the columns: 0 is that with the fewest faults
 */
const aligned =
  (name: ReadingName, rowsOf: RowsOf, how: string, most: number, nth = 0): ReadRegion =>
  (page, words, region) => {
    const view = viewOf(page, words, region, nth);
    const { lines, layout } = view;
    if (!layout) return undefined;
    const bands = rowsOf(page, lines, layout);
    const grid = gridOfBands(page, view, bands);
    if (!grid) return undefined;
    const crossing = grid.cells.filter((cell) => cell.columnSpan > 1).length;
    const clean = 1 - crossing / Math.max(1, grid.cells.length);
    return asReading(
      grid,
      name,
      most * (0.5 + 0.5 * clean) * soundness(view.faults),
      `White space parts ${layout.columns.length} columns, ${how} ${bands.length} rows apart; ${Math.round(clean * 100)} % of the texts keep to one column.${faultsInWords(view.faults)}${doubtIn(doubtfulRows(page, bands, layout))}`,
    );
  };

/** Reads a region by white space alone: gutters that run down part columns, leading and wrapped text part rows. */
export const readAligned = aligned('aligned', bandsByLeading, 'leading tells', 0.8);

/** What white space may mean as well: rows by the first column, every line a row, other columns. Offered where they differ. */
export const otherwiseAligned: readonly ReadRegion[] = [
  aligned('aligned otherwise', bandsByLeading, 'leading tells', 0.5, 1),
  aligned('aligned by first column', bandsByKey, 'texts in the first column tell', 0.4),
  aligned('aligned by every line', (_page, lines) => bandsByLine(lines), 'lines of print tell', 0.3),
];
