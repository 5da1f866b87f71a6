import { linesOf } from '../../page/lines';
import type { ReadRegion } from '../found-table';
import { closeGrid, type Slot } from '../grid';

/** The last resort that always fits: every line of print is a row of one column. */
export const readLineByLine: ReadRegion = (page, words, region) => {
  const lines = linesOf(page.words, words);
  const slots: Slot[] = lines.map((line, row) => ({ row, column: 0, rowSpan: 1, columnSpan: 1, words: [...line.words] }));
  return closeGrid(
    page,
    'line by line',
    { slots, rows: lines.map((line) => line.box), columns: [[region[0], region[2]]] },
    0.1,
    `${lines.length} lines of print, each a row of one column.`,
  );
};
