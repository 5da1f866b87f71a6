import { linesOf } from '../../page/lines';
import { layoutOf } from '../columns';
import type { ReadRegion } from '../found-table';
import { closeGrid } from '../grid';
import { bandsByLeading } from '../rows';
import { slotsOfBands } from './ruled';

/** Reads a region by white space alone: gutters that run down part columns, leading parts rows. */
export const readAligned: ReadRegion = (page, words, region) => {
  const lines = linesOf(page.words, words);
  if (lines.length === 0) return undefined;
  const layout = layoutOf(page, lines, region[0], region[2]);
  if (!layout) return undefined;
  const { columns } = layout;
  const bands = bandsByLeading(page, lines, layout);
  const { slots, rows } = slotsOfBands(page, bands, layout);
  const crossing = slots.filter((slot) => slot.columnSpan > 1).length;
  const clean = 1 - crossing / Math.max(1, slots.length);
  return closeGrid(
    page,
    'aligned',
    { slots, rows, columns },
    0.4 + 0.4 * clean,
    `White space parts ${columns.length} columns over ${bands.length} rows; ${Math.round(clean * 100)} % of the texts keep to one column.`,
  );
};
