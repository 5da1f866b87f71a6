import { around, height, overlap, overlapY, width, type Box } from '../page/box';
import { inReadingOrder, isBold, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import type { GridCell, GridRow, Reading, ReadingName } from './found-table';
import { rolesOf } from './roles';
import { ruledRows, spacedRows } from './row-gaps';

/** A cell still without its text: its place in the grid and the words that lie in it. */
export interface Slot {
  row: number;
  column: number;
  rowSpan: number;
  columnSpan: number;
  words: number[];
  box?: Box;
}

/** A grid before it is closed. `keepColumns`: columns without any text stay. */
interface OpenGrid {
  readonly slots: readonly Slot[];
  readonly rows: readonly Box[];
  readonly columns: readonly [number, number][];
  readonly keepColumns?: boolean;
}

/** Rows and columns without any text hold nothing: they are taken out of the grid before it is shown. */
function withoutEmpty({ slots, rows, columns, keepColumns }: OpenGrid) {
  const rowUsed = new Set<number>();
  const columnUsed = new Set<number>(keepColumns ? columns.keys() : []);
  for (const s of slots)
    if (s.words.length > 0) {
      rowUsed.add(s.row);
      columnUsed.add(s.column);
    }
  const rowAt = placesAmong(rowUsed, rows.length);
  const columnAt = placesAmong(columnUsed, columns.length);
  const spanned = (from: number, span: number, used: Set<number>) => {
    let count = 0;
    for (let i = from; i < from + span; i++) if (used.has(i)) count++;
    return Math.max(1, count);
  };
  return {
    rows: rows.filter((_, i) => rowUsed.has(i)),
    columns: columns.filter((_, i) => columnUsed.has(i)),
    slots: slots
      .filter((s) => s.words.length > 0)
      .map((s) => ({
        ...s,
        row: rowAt[s.row],
        column: columnAt[s.column],
        rowSpan: spanned(s.row, s.rowSpan, rowUsed),
        columnSpan: spanned(s.column, s.columnSpan, columnUsed),
      })),
  };
}

/** For each of `count` places how many used ones stand before it. */
function placesAmong(used: ReadonlySet<number>, count: number): number[] {
  let before = 0;
  return Array.from({ length: count }, (_, i) => (used.has(i) ? before++ : before));
}

const shadedAt = (page: PageContent, row: Box): boolean =>
  page.fills.length > 0 &&
  page.fills.some(
    (fill) =>
      overlapY(fill.box, row) > 0.6 * height(row) &&
      overlap(fill.box[0], fill.box[2], row[0], row[2]) > 0.5 * width(row),
  );

/** A grid with its texts and row marks, not yet a reading of any name. */
export type ClosedGrid = Pick<Reading, 'columns' | 'rows' | 'cells' | 'headingRows'>;

/** Closes a grid: texts in reading order, boxes, row marks. Undefined when fewer than two cells hold text. */
export function closeGrid(page: PageContent, grid: OpenGrid): ClosedGrid | undefined {
  const { slots, rows, columns } = withoutEmpty(grid);
  if (slots.length < 2 || columns.length === 0) return undefined;
  const cells: GridCell[] = slots
    .map((slot) => {
      const words = inReadingOrder(page.words, slot.words);
      return { ...slot, words, text: textOf(page.words, words), box: around(words.map((w) => page.words[w].box))! };
    })
    .sort((a, b) => a.row - b.row || a.column - b.column);
  const byRow: GridCell[][] = rows.map(() => []);
  for (const cell of cells) byRow[cell.row].push(cell);
  const left = Math.min(...cells.map((cell) => cell.box[0]));
  const { roles, headingRows } = rolesOf(page, cells, rows.length, columns.length);
  const boxes = rows.map((band, row) => around(byRow[row].map((cell) => cell.box)) ?? band);
  const spaced = spacedRows(boxes);
  const ruled = ruledRows(boxes, page.rules);
  const marks: GridRow[] = boxes.map((box, row) => {
    return {
      box,
      role: roles[row],
      indent: Math.round((box[0] - left) * 10) / 10,
      bold: byRow[row].length > 0 && byRow[row].every((cell) => isBold(page.words, cell.words)),
      shaded: shadedAt(page, box),
      ...(spaced[row] ? { spaced: true } : {}),
      ...(ruled[row] ? { ruled: true } : {}),
    };
  });
  return { columns, rows: marks, cells, headingRows };
}

/** A closed grid under the name of its reading, with its score (0 to 1) and the reason for it. */
export const asReading = (
  grid: ClosedGrid | undefined,
  name: ReadingName,
  score: number,
  reason: string,
): Reading | undefined => grid && { name, score: Math.round(score * 1000) / 1000, reason, ...grid };
