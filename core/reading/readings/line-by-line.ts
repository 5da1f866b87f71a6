import type { ReadRegion } from '../found-table';
import { asReading, closeGrid, type Slot } from '../grid';
import { viewOf } from '../region-view';

/** The last resort that always fits: every line of print is a row of one column. */
export const readLineByLine: ReadRegion = (page, words, region) => {
  const { lines } = viewOf(page, words, region);
  const slots: Slot[] = lines.map((line, row) => ({
    row,
    column: 0,
    rowSpan: 1,
    columnSpan: 1,
    words: [...line.words],
  }));
  return asReading(
    closeGrid(page, { slots, rows: lines.map((line) => line.box), columns: [[region[0], region[2]]] }),
    'line by line',
    0.1,
    `${lines.length} lines of print, each a row of one column.`,
  );
};
