import { around, height, overlap, overlapY, width, type Box } from '../page/box';
import { inReadingOrder, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import type { GridCell, GridRow, Reading, ReadingName } from './found-table';
import { rolesOf } from './roles';

/** A cell still without its text: its place in the grid and the words that lie in it. */
export interface Slot {
  row: number;
  column: number;
  rowSpan: number;
  columnSpan: number;
  words: number[];
  box?: Box;
}

/** Rows and columns without any text hold nothing: they are taken out of the grid before it is shown. */
function withoutEmpty(slots: Slot[], rows: Box[], columns: [number, number][]) {
  const rowUsed = new Set<number>();
  const columnUsed = new Set<number>();
  for (const s of slots)
    if (s.words.length > 0) {
      rowUsed.add(s.row);
      columnUsed.add(s.column);
    }
  const rowAt = rows.map((_, i) => [...rowUsed].filter((r) => r < i).length);
  const columnAt = columns.map((_, i) => [...columnUsed].filter((c) => c < i).length);
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

const shadedAt = (page: PageContent, row: Box): boolean =>
  page.fills.some((fill) => overlapY(fill.box, row) > 0.6 * height(row) && overlap(fill.box[0], fill.box[2], row[0], row[2]) > 0.5 * width(row));

/** Closes a grid: texts in reading order, boxes, row marks. Undefined when fewer than two cells hold text. */
export function closeGrid(
  page: PageContent,
  name: ReadingName,
  grid: { slots: Slot[]; rows: Box[]; columns: [number, number][] },
  score: number,
  reason: string,
): Reading | undefined {
  const { slots, rows, columns } = withoutEmpty(grid.slots, grid.rows, grid.columns);
  if (slots.length < 2 || columns.length === 0) return undefined;
  const cells: GridCell[] = slots
    .map((slot) => {
      const words = inReadingOrder(page.words, slot.words);
      return { ...slot, words, text: textOf(page.words, words), box: around(words.map((w) => page.words[w].box))! };
    })
    .sort((a, b) => a.row - b.row || a.column - b.column);
  const byRow = rows.map((_, row) => cells.filter((cell) => cell.row === row));
  const left = Math.min(...cells.map((cell) => cell.box[0]));
  const { roles, headingRows } = rolesOf(page, cells, rows.length, columns.length);
  const marks: GridRow[] = rows.map((band, row) => {
    const words = byRow[row].flatMap((cell) => cell.words);
    const box = around(words.map((w) => page.words[w].box)) ?? band;
    return {
      box,
      role: roles[row],
      indent: Math.round((Math.min(...words.map((w) => page.words[w].box[0])) - left) * 10) / 10,
      bold: words.length > 0 && words.every((w) => page.words[w].weight === 700),
      shaded: shadedAt(page, box),
    };
  });
  return { name, score: Math.round(score * 1000) / 1000, reason, columns, rows: marks, cells, headingRows };
}
