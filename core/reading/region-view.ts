import type { Box } from '../page/box';
import { linesOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { withGroupLabels } from './group-labels';
import { layoutsOf, phrasesInColumns } from './columns';
import type { Faults } from './faults';
import type { Layout } from './layout';
import { closeGrid, type ClosedGrid, type Slot } from './grid';
import type { Band } from './rows';

/** A region's lines of print and the columns that white space parts, worked out once for all of its readings. */
export interface RegionView {
  readonly lines: readonly Line[];
  readonly layout: Layout | undefined;
  readonly faults: Faults | undefined;
  readonly closed: Map<string, ClosedGrid | undefined>;
}

const views = new WeakMap<readonly number[], RegionView[]>();

/**
 * @param words the words of the region; the view is kept as long as they are
 * @param nth which hypothesis of the columns, that with the fewest faults first; without a layout where there are not so many
 */
export function viewOf(page: PageContent, words: readonly number[], region: Box, nth = 0): RegionView {
  let known = views.get(words);
  if (!known) {
    const lines = withGroupLabels(page, linesOf(page.words, words));
    const layouts = lines.length === 0 ? [] : layoutsOf(page, lines, region[0], region[2]);
    known =
      layouts.length === 0
        ? [{ lines, layout: undefined, faults: undefined, closed: new Map() }]
        : layouts.map((judged) => ({ lines, ...judged, closed: new Map() }));
    views.set(words, known);
  }
  return known[nth] ?? { ...known[0], layout: undefined, faults: undefined };
}

/**
 * The grid of these rows over the view's columns: lines of one row that stand in the same column join into one cell.
 * @param cells over several rows, by their first row, of columns in which they are known to be
 */
export function gridOfBands(
  page: PageContent,
  view: RegionView,
  bands: readonly Band[],
  cells: readonly TallCell[] = [],
): ClosedGrid | undefined {
  const { layout, closed, lines } = view;
  if (!layout) return undefined;
  const key =
    bands.map((band) => band.lines.map((line) => lines.indexOf(line)).join()).join(';') + JSON.stringify(cells);
  if (!closed.has(key))
    closed.set(
      key,
      closeGrid(page, {
        slots: inTallCells(slotsOf(page, bands, layout), cells),
        rows: bands.map((band) => band.box),
        columns: layout.columns,
      }),
    );
  return closed.get(key);
}

/** Rows from .. to, with both, of which a column is one cell. */
export interface TallCell {
  readonly column: number;
  readonly from: number;
  readonly to: number;
}

/** A text that stands in the middle of a cell over several rows belongs to the first of them. */
function inTallCells(slots: Slot[], cells: readonly TallCell[]): Slot[] {
  for (const { column, from, to } of cells) {
    const own = slots.filter((slot) => slot.column === column && slot.row >= from && slot.row <= to);
    if (own.length === 1 && own[0].columnSpan === 1 && own[0].row > from) {
      own[0].row = from;
      own[0].rowSpan = to - from + 1;
    }
  }
  return slots;
}

/** The texts of these rows in the columns that they stand in: lines of one row join. */
export function slotsOf(page: PageContent, bands: readonly Band[], layout: Layout): Slot[] {
  return bands.flatMap((band, row) => {
    const here = new Map<number, Slot>();
    for (const line of band.lines)
      for (const { column, columnSpan, words } of phrasesInColumns(page, line, layout)) {
        const slot = here.get(column);
        if (slot) {
          slot.words.push(...words);
          slot.columnSpan = Math.max(slot.columnSpan, columnSpan);
        } else here.set(column, { row, column, rowSpan: 1, columnSpan, words: [...words] });
      }
    return [...here.values()];
  });
}
