import { height, overlap, width, type Box } from '../page/box';
import { linesOf, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import type { GridCell, Piece, Reading } from './found-table';
import { plainRows } from './found-table';
import { looksNumeric } from '../values/numeric';

const squeezed = (text: string) => text.toLowerCase().replace(/\s+/g, '');
const headingOf = (reading: Reading) => squeezed(plainRows(reading).slice(0, reading.headingRows).flat().join('|'));

/** Titles that only say that the table goes on. */
const goesOn = /continued|fortsetzung|suite|forts\.|\(cont|vervolg|continua|ciąg dalszy/i;

/** Edges within this many points are one edge. */
export const sameEdge = 2.5;
/** The share of columns that stand on the same edges overleaf. */
const enough = 0.6;

/**
 * Does `next`, the first table of its page, go on from `last`, the last table of the page before? It does when it repeats
 * the heading, or has none of its own and the same columns on the same edges, unless a new title stands above it.
 */
export function continues(last: Piece, next: Piece, before: PageContent, page: PageContent): boolean {
  if (next.page !== last.page + 1) return false;
  const a = last.readings[0];
  const b = next.readings[0];
  const same = next.title !== undefined && last.title !== undefined && squeezed(next.title) === squeezed(last.title);
  if (next.title && !goesOn.test(next.title) && !same && !isRunningHead(next, before, page)) return false;
  if (same && !goesOn.test(next.title) && !endsLow(last.box, before)) return false;
  const repeated = a.headingRows > 0 && b.headingRows > 0 && headingOf(a) === headingOf(b);
  const agreeing = agreement(a, b);
  if (repeated) return true;
  if (headsOtherwise(a, b)) return false;
  if (Math.abs(a.columns.length - b.columns.length) > 1 && agreeing < 0.8) return false;
  if (!sameWidth(last.box, next.box) && agreeing < enough) return false;
  return (
    (endsLow(last.box, before) || isLowest(last.box, before)) && startsHigh(next.box, page) && agreeing >= 0.5 * enough
  );
}

/** Is the title over the next table printed at the same height on the page before, too? Then it heads the pages. */
function isRunningHead(next: Piece, before: PageContent, page: PageContent): boolean {
  const own = next.titleWords.map((w) => page.words[w]).filter(Boolean);
  if (own.length === 0) return false;
  const [top, bottom] = [Math.min(...own.map((word) => word.box[1])), Math.max(...own.map((word) => word.box[3]))];
  const there = before.words.flatMap((word, i) => (word.box[3] > top - 4 && word.box[1] < bottom + 4 ? [i] : []));
  return linesOf(before.words, there).some((line) =>
    squeezed(textOf(before.words, line.words)).includes(squeezed(next.title!)),
  );
}

/** Columns on so many edges of another table's are the same columns. */
const theSame = 0.75;

/** Has a reading the same columns on the same edges as another, and no headings of its own? Then it goes on where that ends. */
export const goesOnWith = (a: Reading, b: Reading): boolean =>
  a.columns.length === b.columns.length &&
  agreement(a, b) >= theSame &&
  !headsOtherwise(a, b) &&
  !headsNothingBefore(a, b);

/** Does the second begin with headings where the first has none that are alike? */
const headsNothingBefore = (a: Reading, b: Reading) =>
  b.headingRows > 0 &&
  b.rows.length > b.headingRows &&
  headingOf(a) !== headingOf(b) &&
  b.cells.filter((cell) => cell.row < b.headingRows).every(({ text }) => !looksNumeric(text));

const bodyCells = (reading: Reading, column: number): GridCell[] =>
  reading.cells.filter((cell) => cell.row >= reading.headingRows && cell.column === column && cell.columnSpan === 1);

/** Tells whether a text stands on an edge on which the texts of a column of a reading stand. */
export function edgesIn(reading: Reading): (column: number, box: Box) => boolean {
  const own = reading.columns.map((_, column) => bodyCells(reading, column).map(({ box }) => box));
  return (column, box) =>
    own[column].some((other) => Math.abs(other[0] - box[0]) < sameEdge || Math.abs(other[2] - box[2]) < sameEdge);
}

/** The share of the columns of the next piece whose texts stand on an edge of a column before. */
function agreement(a: Reading, b: Reading): number {
  const edgesOf = (reading: Reading) =>
    reading.columns.map((_, column) => {
      const cells = bodyCells(reading, column);
      return cells.length === 0
        ? undefined
        : { left: Math.min(...cells.map(({ box }) => box[0])), right: Math.max(...cells.map(({ box }) => box[2])) };
    });
  const [upper, lower] = [edgesOf(a), edgesOf(b)];
  const known = lower.filter((own) => own !== undefined);
  const met = known.filter((own) =>
    upper.some(
      (other) => other && (Math.abs(own.left - other.left) < sameEdge || Math.abs(own.right - other.right) < sameEdge),
    ),
  );
  return known.length === 0 ? 0 : met.length / known.length;
}

/** Does the next piece begin with headings of its own, words over columns of amounts, that are not those before? */
function headsOtherwise(a: Reading, b: Reading): boolean {
  if (a.headingRows === 0 || b.headingRows === 0) return false;
  const heads = b.cells.filter((cell) => cell.row < b.headingRows);
  const overAmounts = heads.filter((cell) => {
    const texts = bodyCells(b, cell.column).map(({ text }) => text);
    return texts.length > 0 && texts.filter(looksNumeric).length >= 0.6 * texts.length;
  });
  const words = overAmounts.filter(({ text }) => !looksNumeric(text) || /^(?:19|20)\d\d$/.test(text));
  if (overAmounts.length === 0 || words.length < 0.6 * overAmounts.length) return false;
  const known = new Set(a.cells.filter((cell) => cell.row < a.headingRows).map(({ text }) => squeezed(text)));
  return words.filter(({ text }) => known.has(squeezed(text))).length < 0.5 * words.length;
}

const sameWidth = (a: Box, b: Box) =>
  Math.abs(a[0] - b[0]) < 0.05 * width(a) + 6 && Math.abs(width(a) - width(b)) < 0.1 * width(a) + 6;
const endsLow = (box: Box, page: PageContent) => box[3] > 0.6 * page.height || height(box) > 0.6 * page.height;
const startsHigh = (box: Box, page: PageContent) => box[1] < 0.35 * page.height;

/** Does nothing but what stands in the margin follow a table? */
const isLowest = (box: Box, page: PageContent) =>
  !page.words.some(
    (word) =>
      word.box[1] > box[3] && word.box[3] < 0.9 * page.height && overlap(word.box[0], word.box[2], box[0], box[2]) > 0,
  );
