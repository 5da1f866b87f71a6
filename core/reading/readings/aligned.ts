import { linesOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { layoutOf, type Layout } from '../columns';
import type { ReadRegion } from '../found-table';
import { closeGrid } from '../grid';
import { bandsByKey, bandsByLeading, bandsByLine, type Band } from '../rows';
import { slotsOfBands } from './ruled';

type RowsOf = (page: PageContent, lines: readonly Line[], layout: Layout) => Band[];

/** @param how how the rows are told, for the reason */
const aligned =
  (rowsOf: RowsOf, how: string, most: number): ReadRegion =>
  (page, words, region) => {
    const lines = linesOf(page.words, words);
    if (lines.length === 0) return undefined;
    const layout = layoutOf(page, lines, region[0], region[2]);
    if (!layout) return undefined;
    const { columns } = layout;
    const bands = rowsOf(page, lines, layout);
    const { slots, rows } = slotsOfBands(page, bands, layout);
    const crossing = slots.filter((slot) => slot.columnSpan > 1).length;
    const clean = 1 - crossing / Math.max(1, slots.length);
    return closeGrid(
      page,
      'aligned',
      { slots, rows, columns },
      most * (0.5 + 0.5 * clean),
      `White space parts ${columns.length} columns, ${how} ${bands.length} rows; ${Math.round(clean * 100)} % of the texts keep to one column.`,
    );
  };

/** Reads a region by white space alone: gutters that run down part columns, leading and wrapped text part rows. */
export const readAligned = aligned(bandsByLeading, 'leading', 0.8);

/** What white space may mean as well: rows by the first column, or every line a row. Offered where they differ. */
export const otherwiseAligned: readonly ReadRegion[] = [aligned(bandsByKey, 'texts in the first column', 0.4), aligned((_page, lines) => bandsByLine(lines), 'lines of print', 0.3)];
