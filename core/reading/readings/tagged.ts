import { around, holdsCentre, middleX, overlap, overlapX, type Box } from '../../page/box';
import type { PageContent } from '../../page/page';
import type { ReadRegion } from '../found-table';
import { asReading, closeGrid, type ClosedGrid, type Slot } from '../grid';
import { sharedByPeriod, shareColumns } from '../headings';
import { textOf } from '../../page/lines';
import { wordsOfTagged, type CellWords } from '../tagged-words';

/**
 * Reads a region by the file's structure tags. The tags say which words make a cell and which cells a row; where a row
 * has fewer cells than the widest, its cells are put over the columns by their place. Tags that do not agree with what
 * is printed (cells one over the other, rows out of order) are no reading.
 */
export const readTagged: ReadRegion = (page, words, region) => {
  const wanted = new Set(words);
  const rows = (page.tagged ?? [])
    .map((table) => wordsOfTagged(page, table))
    .find((table) => {
      const own = table.flat().flatMap((cell) => cell.words);
      return own.length > 0 && own.filter((w) => wanted.has(w)).length >= 0.8 * Math.max(own.length, words.length);
    });
  if (!rows || rows.length < 2) return undefined;
  const count = Math.max(...rows.map((row) => row.length));
  const columns = columnsOf(page, rows, count);
  if (!columns || count < 2) return undefined;
  const boxes = rows.map((row) => row.map((cell) => boxOf(page, cell)));
  const agreeing = agreement(page, rows, boxes);
  if (agreeing < 0.9) return undefined;
  const slots: Slot[] = [];
  // The second row has no cells below labels of the first that run over both.
  const lacking = count - rows[1].length;
  const second = lacking > 0 ? placeRow(boxes[1], columns) : undefined;
  const besideLabels = second !== undefined && isBesideLabels(second, rows[1], count);
  const secondRow = besideLabels ? [...Array.from({ length: lacking }, () => blankCell), ...rows[1]] : rows[1];
  const secondBoxes = besideLabels ? [...Array.from({ length: lacking }, () => undefined), ...boxes[1]] : boxes[1];
  let placedByPlace = 0;
  for (const [r, row] of rows.entries()) {
    const own = row.length === count ? row.map((_, c) => ({ column: c, columnSpan: 1 })) : placeRow(boxes[r], columns);
    if (!own) return undefined;
    if (row.length < count && !isBesideLabels(own, row, count)) placedByPlace++;
    const placed =
      r > 0 && row.length <= count / 2 && setToRight(boxes[r][0], own[0], columns)
        ? fromLeft(own)
        : r === 0
          ? tiled(headingOver(page, boxes[r], secondRow, secondBoxes, columns, count) ?? own, boxes[r], columns)
          : own;
    row.forEach((cell, c) => {
      if (cell.words.length > 0) slots.push({ row: r, rowSpan: 1, ...placed[c], words: [...cell.words] });
    });
  }
  const rowBoxes = boxes.map((row) => around(row.filter((box): box is Box => box !== undefined))!);
  return asReading(
    withHeadings(closeGrid(page, { slots, rows: rowBoxes, columns: cuts(columns, region) }), rows),
    'tagged',
    0.97 * agreeing - (placedByPlace > 0.34 * rows.length ? 0.3 : 0.1) * (placedByPlace / rows.length),
    `The file's tags tell ${rows.length} rows of up to ${count} cells; ${Math.round(agreeing * 100)} % of the cells stand apart on paper.`,
  );
};

/** Does the first text of a row of a few cells end where a later column does, as the label of a sum does that runs over those before it? */
const setToRight = (box: Box | undefined, range: Range, columns: readonly [number, number][]): boolean =>
  box !== undefined &&
  range.column > 0 &&
  range.columnSpan === 1 &&
  Math.abs(box[2] - columns[range.column][1]) < near &&
  box[0] > columns[range.column][0] + near;

const blankCell: CellWords = { heading: true, words: [] };

const fromLeft = (placed: readonly Range[]): Range[] =>
  placed.map((range, i) => (i === 0 ? { column: 0, columnSpan: range.column + range.columnSpan } : range));

/** Does a row lack just its first cells, as it does beside a label that runs over several rows? */
const isBesideLabels = (placed: readonly Range[], row: readonly CellWords[], count: number): boolean =>
  row.every(
    ({ words }, c) => words.length === 0 || (placed[c].columnSpan === 1 && placed[c].column === count - row.length + c),
  );

/** A first row of fewer cells than the second, each over some of its columns; blank cells may stand over the labels. */
function headingOver(
  page: PageContent,
  first: readonly (Box | undefined)[],
  second: readonly CellWords[],
  boxes: readonly (Box | undefined)[],
  columns: readonly [number, number][],
  count: number,
): Range[] | undefined {
  const blank = first.findIndex((box) => box);
  if (second.length !== count || blank < 0 || first.slice(blank).some((box) => !box) || first.length >= count)
    return undefined;
  const texts = first.slice(blank).flatMap((box) => {
    const covered = columns.flatMap(([from, to], c) => (overlap(from, to, box![0], box![2]) > 0 ? [c] : []));
    return covered.length > 0 ? [{ box: box!, first: covered[0], last: covered.at(-1)! }] : [];
  });
  if (texts.length < first.length - blank) return undefined;
  const extents = columns.map(([from, to], c): Box => around([[from, 0, to, 0], ...(boxes[c] ? [boxes[c]] : [])])!);
  const headed = new Set(second.flatMap((cell, c) => (cell.words.length > 0 ? [c] : [])));
  const fontSize = page.words[second.find((cell) => cell.words.length > 0)!.words[0]].fontSize;
  const below = second.flatMap(({ words }, column) =>
    words.length > 0 ? [{ column, text: textOf(page.words, words) }] : [],
  );
  const spans =
    sharedByPeriod(texts, below, extents) ??
    shareColumns(page, { box: around(texts.map(({ box }) => box))!, fontSize }, texts, extents, headed);
  return [
    ...first.slice(0, blank).map(() => ({ column: 0, columnSpan: 1 })),
    ...spans.map(([from, to]) => ({ column: from, columnSpan: to - from + 1 })),
  ];
}

/** The rows on top whose cells are all tagged as headings are the heading rows; without such tags the guess stands. */
function withHeadings(grid: ClosedGrid | undefined, rows: readonly CellWords[][]): ClosedGrid | undefined {
  const headings = rows.findIndex((row) => row.some((cell) => cell.words.length > 0 && !cell.heading));
  if (!grid || headings <= 0) return grid;
  return {
    ...grid,
    headingRows: headings,
    rows: grid.rows.map((row, i) =>
      i < headings ? { ...row, role: 'heading' } : row.role === 'heading' ? { ...row, role: 'body' } : row,
    ),
  };
}

const boxOf = (page: PageContent, cell: CellWords): Box | undefined => around(cell.words.map((w) => page.words[w].box));

/** From where to where each column is printed, by the rows that have a cell for every column. */
function columnsOf(page: PageContent, rows: readonly CellWords[][], count: number): [number, number][] | undefined {
  const full = rows.filter((row) => row.length === count);
  const extents = Array.from({ length: count }, (_, c) =>
    around(full.map((row) => boxOf(page, row[c])).filter((box) => box !== undefined)),
  );
  const known = extents.flatMap((box) => (box ? [box] : []));
  if (known.length < 2 || known.slice(1).some((box, i) => box[0] < known[i][0])) return undefined;
  // A column without any text stands in the gap between its neighbours.
  return extents.map((box, c): [number, number] => {
    if (box) return [box[0], box[2]];
    const left = extents.slice(0, c).findLast((b) => b)?.[2] ?? known[0][0];
    const right = extents.slice(c + 1).find((b) => b)?.[0] ?? known.at(-1)![2];
    return [(left + right) / 2, (left + right) / 2];
  });
}

/** The share of cells that no other cell's words stand in, in rows that follow each other down the page. */
function agreement(page: PageContent, rows: readonly CellWords[][], boxes: readonly (Box | undefined)[][]): number {
  let cells = 0;
  let apart = 0;
  rows.forEach((row, r) =>
    row.forEach((cell, c) => {
      const box = boxes[r][c];
      if (!box) return;
      cells++;
      const others = rows
        .slice(Math.max(0, r - 1), r + 2)
        .flat()
        .filter((other) => other !== cell)
        .flatMap((other) => other.words);
      const above = boxes[r - 1]?.find((other) => other && overlapX(other, box) > 0);
      if (!others.some((w) => holdsCentre(box, page.words[w].box)) && !(above && above[1] > box[1] + 1)) apart++;
    }),
  );
  return cells === 0 ? 0 : apart / cells;
}

/** Edges and middles within this many points are one. */
const near = 2.5;

/** Puts the cells of a row over the columns: each over those it covers, or those in whose middle it is set. */
function placeRow(boxes: readonly (Box | undefined)[], columns: readonly [number, number][]): Range[] | undefined {
  const taken = new Set<number>();
  const placed: Range[] = [];
  for (const [i, box] of boxes.entries()) {
    if (!box) {
      placed.push({ column: 0, columnSpan: 1 });
      continue;
    }
    const next = boxes.slice(i + 1).find((other) => other)?.[0] ?? Infinity;
    const range = rangeOf(box, columns, next);
    for (let c = range.column; c < range.column + range.columnSpan; c++) {
      if (taken.has(c)) return undefined;
      taken.add(c);
    }
    placed.push(range);
  }
  return placed;
}

interface Range {
  column: number;
  columnSpan: number;
}

/**
 * The first row leaves no column out, as no cell above reaches down into it: a column that no cell of it stands over
 * goes to the neighbour in whose middle its text then stands better.
 */
function tiled(
  placed: readonly Range[],
  boxes: readonly (Box | undefined)[],
  columns: readonly [number, number][],
): Range[] {
  const ranges = placed.map((range) => ({ ...range }));
  if (boxes.some((box) => box === undefined)) return ranges;
  const off = ({ column, columnSpan }: Range, i: number) =>
    Math.abs((columns[column][0] + columns[column + columnSpan - 1][1]) / 2 - middleX(boxes[i]!));
  for (let i = 0; i < ranges.length; i++) {
    const end = ranges[i].column + ranges[i].columnSpan;
    const next = ranges[i + 1];
    for (let c = end; c < (next?.column ?? columns.length); c++) {
      const wider = { column: ranges[i].column, columnSpan: c - ranges[i].column + 1 };
      if (next && off(wider, i) > off(ranges[i], i)) {
        ranges[i + 1] = { column: c, columnSpan: next.column + next.columnSpan - c };
        break;
      }
      ranges[i] = wider;
    }
  }
  return ranges;
}

function rangeOf(box: Box, columns: readonly [number, number][], next: number): Range {
  const covered = columns.flatMap(([from, to], c) =>
    overlap(from, to, box[0], box[2]) > Math.min(1, 0.2 * (to - from)) ? [c] : [],
  );
  if (covered.length > 1) return { column: covered[0], columnSpan: covered.at(-1)! - covered[0] + 1 };
  const only =
    covered[0] ??
    columns.reduce((best, column, c) => (distance(column, box) < distance(columns[best], box) ? c : best), 0);
  const [from, to] = columns[only];
  const atEdge =
    Math.abs(box[0] - from) < near || Math.abs(box[2] - to) < near || Math.abs(middleX(box) - (from + to) / 2) < near;
  const within = box[0] >= from - near && box[2] <= to + near;
  if (covered.length === 1 && (atEdge || within)) return { column: only, columnSpan: 1 };
  for (let span = 2; span <= columns.length; span++)
    for (let c = Math.max(0, only - span + 1); c <= only && c + span <= columns.length; c++)
      if (
        columns[c + span - 1][1] < next &&
        Math.abs((columns[c][0] + columns[c + span - 1][1]) / 2 - middleX(box)) < near
      )
        return { column: c, columnSpan: span };
  return { column: only, columnSpan: 1 };
}

const distance = ([from, to]: readonly [number, number], box: Box) => Math.abs((from + to) / 2 - middleX(box));

function cuts(columns: readonly [number, number][], region: Box): [number, number][] {
  const edges = [region[0], ...columns.slice(1).map(([from], i) => (columns[i][1] + from) / 2), region[2]];
  return columns.map((_, c): [number, number] => [edges[c], edges[c + 1]]);
}
