import { around, overlap, type Box } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { turnsToUpright } from '../page/turn';
import { layoutWith } from './columns';
import type { GridRow, Piece, Reading, ReadingName } from './found-table';
import { asReading, closeGrid } from './grid';
import type { Gutter } from './gutters';
import { roleAlone } from './overleaf';
import { phrasesOf, spaceOf } from './phrases';
import { slotsOf } from './region-view';
import { bandsByLeading } from './rows';

/** Edges within this many points are one edge. */
const sameEdge = 2.5;
/** So many of the texts stand on an edge of their column. */
const enough = 0.75;
/** Letters may reach this far into the white space between two columns, in points. */
const sliver = 1;

/**
 * The piece of a table that goes on overleaf, read by the columns of the table before: the few rows of the last page may leave a
 * column blank, or show no white space between two others. As it is where it says other headings, where its words do not stand in
 * these columns, or where it has the same anyway.
 */
export function onColumnsBefore(last: Piece, next: Piece, before: PageContent, page: PageContent): Piece {
  const [a] = last.readings;
  const [b] = next.readings;
  if (a.columns.length < 2 || b.columns.length > a.columns.length || turnsToUpright(page) > 0) return next;
  const lines = linesOf(page.words, [...new Set(b.cells.flatMap((cell) => [...cell.words]))]);
  const repeats = b.headingRows > 0 && headingWords(a) === headingWords(b);
  // The end of a row that the page cuts, right under headings that come again, looks like the next line of these.
  const heads = repeats ? 0 : headingLines(before, a).length;
  const cut = heads > 0 && a.headingRows === 1 && lines.length > heads && headingLines(before, a).every((text, i) => squeezed(page, lines[i]) === text);
  const saysOther = !repeats && !cut && b.cells.filter((cell) => cell.row < b.headingRows).length > 1;
  if (saysOther) return next;
  // One text above the rows heads no columns.
  if (!cut && standsInSame(a, b)) return repeats || b.headingRows === 0 ? next : { ...next, readings: [{ ...b, headingRows: 0, rows: b.rows.map((row, at): GridRow => (at < b.headingRows ? { ...row, role: 'body' } : row)) }, ...next.readings.slice(1)] };
  const gutters = guttersBetween(page, lines, a);
  if (!gutters) return next;
  const layout = layoutWith(page, lines, Math.min(a.columns[0][0], next.box[0]), Math.max(a.columns.at(-1)![1], next.box[2]), gutters);
  const top = cut ? lines.slice(0, heads) : [];
  const bands = [...(cut ? [{ box: around(top.map(({ box }) => box))!, lines: top }] : []), ...bandsByLeading(page, cut ? lines.slice(heads) : lines, layout)];
  const grid = closeGrid(page, { slots: slotsOf(page, bands, layout), rows: bands.map(({ box }) => box), columns: layout.columns, keepColumns: true });
  const reading = asReading(grid, 'aligned', Math.max(b.score, 0.7), `On the columns of the table that it goes on from, in which its words stand${cut ? ', below its headings' : ''}; by itself it has ${b.columns.length}.`);
  const headingRows = cut ? 1 : repeats ? (reading?.headingRows ?? 0) : 0;
  if (!reading || onEdges(a, reading.cells.filter(({ row }) => row >= headingRows)) < enough) return next;
  const rows = reading.rows.map((row, at): GridRow => ({ ...row, role: at < headingRows ? 'heading' : repeats ? row.role : roleAlone(reading.cells.filter((cell) => cell.row === at), row.role, at === reading.rows.length - 1) }));
  const names = new Set<ReadingName>(['aligned']);
  const others = next.readings.flatMap((each): Reading[] => {
    const name: ReadingName = each.name === 'aligned' ? 'aligned otherwise' : each.name;
    if (names.has(name)) return [];
    names.add(name);
    return [{ ...each, name }];
  });
  return { ...next, readings: [{ ...reading, rows, headingRows }, ...others] };
}

const squeezed = (page: PageContent, { words }: Pick<Line, 'words'>): string => textOf(page.words, words).replace(/\s+/g, '').toLowerCase();

/** The lines of print of the headings of a reading, without their spaces. */
const headingLines = (page: PageContent, { cells, headingRows }: Reading): string[] => linesOf(page.words, cells.filter(({ row }) => row < headingRows).flatMap(({ words }) => [...words])).map((line) => squeezed(page, line));

const headingWords = ({ cells, headingRows }: Reading): string =>
  cells
    .filter(({ row }) => row < headingRows)
    .map(({ text }) => text.replace(/\s+/g, '').toLowerCase())
    .join('');

/** As many columns, each where the one of its number stands in the other. */
const standsInSame = (a: Reading, b: Reading): boolean =>
  a.columns.length === b.columns.length && b.columns.every(([left, right], i) => a.columns.every(([l, r], other) => other === i || overlap(left, right, l, r) <= overlap(left, right, a.columns[i][0], a.columns[i][1])));

/** Words no further apart than so many word spaces are of one text. */
const closest = 1.5;

/** The white space between the columns of a reading that the texts of these lines leave free as well; undefined where one stands across. */
function guttersBetween(page: PageContent, lines: readonly Line[], of: Reading): Gutter[] | undefined {
  const space = spaceOf(page, lines);
  const texts = lines.flatMap((line) => phrasesOf(page, line, 0, closest * space).map(({ box }) => box));
  const own = of.columns.map((_, column) => of.cells.filter((cell) => cell.column === column && cell.columnSpan === 1).map(({ box }) => box));
  const gutters = of.columns.slice(1).map(([cut], i): Gutter => {
    const end = Math.max(...own[i].map((box) => box[2]));
    const start = Math.min(...own[i + 1].map((box) => box[0]));
    // Where texts reach over each other, or a column holds none alone, what parted them there does so here.
    const [from, to] = end < start ? [end, start] : [cut, cut];
    const isLeft = (box: Box) => box[0] < from && box[2] > from - sliver;
    const isRight = (box: Box) => box[2] > to && box[0] < to + sliver;
    return { from: Math.max(from, ...texts.filter((box) => isLeft(box) && !isRight(box)).map((box) => box[2])), to: Math.min(to, ...texts.filter((box) => isRight(box) && !isLeft(box)).map((box) => box[0])) };
  });
  const stands = (box: Box) => gutters.some(({ from, to }) => box[0] < from - sliver && box[2] > to + sliver);
  return gutters.some(({ from, to }) => from > to + sliver) || texts.some(stands) ? undefined : gutters;
}

/** The share of the texts that stand on an edge on which texts of their column stand in the other. */
function onEdges(a: Reading, cells: Reading['cells']): number {
  const edges = a.columns.map((_, column) => a.cells.filter((cell) => cell.row >= a.headingRows && cell.column === column && cell.columnSpan === 1).map(({ box }) => box));
  const met = cells.filter(({ column, box }) => edges[column].some((other) => Math.abs(other[0] - box[0]) < sameEdge || Math.abs(other[2] - box[2]) < sameEdge));
  return cells.length === 0 ? 0 : met.length / cells.length;
}
