import { around, overlap, type Box } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { turnsToUpright } from '../page/turn';
import { layoutWith } from './columns';
import { edgesIn } from './continuation';
import type { GridRow, Piece, Reading, ReadingName } from './found-table';
import { asReading, closeGrid } from './grid';
import type { Gutter } from './gutters';
import { roleAlone } from './overleaf';
import { phrasesOf, spaceOf } from './phrases';
import { slotsOf } from './region-view';
import { bandsByLeading } from './rows';

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
  const repeats = b.headingRows > 0 && headingWords(a) === headingWords(b);
  const heads = repeats ? 0 : headsOverCutRow(a, b, before, page);
  const headed = repeats || heads > 0;
  if (!headed && b.cells.filter((cell) => cell.row < b.headingRows).length > 1) return next;
  if (heads === 0 && standsInSame(a, b))
    return repeats || b.headingRows === 0
      ? next
      : { ...next, readings: [withoutHeading(b), ...next.readings.slice(1)] };
  const read = readOnColumns(a, next, page, heads);
  if (!read) return next;
  const reading = headed ? read : withoutHeading(read);
  const isOnEdge = edgesIn(a);
  const own = reading.cells.filter(({ row }) => row >= reading.headingRows);
  return own.filter(({ column, box }) => isOnEdge(column, box)).length < enough * own.length
    ? next
    : withReading(next, reading);
}

/** The words of a piece in the columns of a reading. @param heads lines at the top that are one row of headings */
function readOnColumns(
  a: Reading,
  { box, readings: [b] }: Piece,
  page: PageContent,
  heads: number,
): Reading | undefined {
  const lines = linesIn(page, b);
  const gutters = guttersBetween(page, lines, a);
  if (!gutters) return undefined;
  const layout = layoutWith(
    page,
    lines,
    Math.min(a.columns[0][0], box[0]),
    Math.max(a.columns.at(-1)![1], box[2]),
    gutters,
  );
  const top = lines.slice(0, heads);
  const bands = [
    ...(heads > 0 ? [{ box: around(top.map((line) => line.box))!, lines: top }] : []),
    ...bandsByLeading(page, lines.slice(heads), layout),
  ];
  const grid = closeGrid(page, {
    slots: slotsOf(page, bands, layout),
    rows: bands.map((band) => band.box),
    columns: layout.columns,
    keepColumns: true,
  });
  const reading = asReading(
    grid,
    'aligned',
    Math.max(b.score, 0.7),
    `On the columns of the table that it goes on from, in which its words stand${heads > 0 ? ', below its headings' : ''}; by itself it has ${b.columns.length}.`,
  );
  return (
    reading &&
    (heads > 0
      ? {
          ...reading,
          headingRows: 1,
          rows: reading.rows.map((row, at): GridRow => ({ ...row, role: at === 0 ? 'heading' : roleIn(reading, at) })),
        }
      : reading)
  );
}

/** A reading whose rows are all of the table that it goes on from: what looks like a heading is none. */
const withoutHeading = (reading: Reading): Reading => ({
  ...reading,
  headingRows: 0,
  rows: reading.rows.map((row, at): GridRow => ({ ...row, role: roleIn(reading, at) })),
});

const roleIn = ({ cells, rows }: Reading, at: number): GridRow['role'] =>
  roleAlone(
    cells.filter((cell) => cell.row === at),
    rows[at].role,
    at === rows.length - 1,
  );

/** The piece with a reading before its own; no two bear one name. */
function withReading(piece: Piece, reading: Reading): Piece {
  const names = new Set<ReadingName>([reading.name]);
  const others = piece.readings.flatMap((each): Reading[] => {
    const name: ReadingName = each.name === 'aligned' ? 'aligned otherwise' : each.name;
    if (names.has(name)) return [];
    names.add(name);
    return [{ ...each, name }];
  });
  return { ...piece, readings: [reading, ...others] };
}

/** How many lines of headings come again over the end of a row that the page cuts, which then looks like their next line; 0 for none. */
function headsOverCutRow(a: Reading, b: Reading, before: PageContent, page: PageContent): number {
  const isHead = ({ row }: { row: number }) => row === 0;
  if (
    a.headingRows !== 1 ||
    !a.cells.filter(isHead).every(({ text }) => b.cells.filter(isHead).some((cell) => cell.text.startsWith(text)))
  )
    return 0;
  const heads = linesOf(
    before.words,
    a.cells.filter(isHead).flatMap(({ words }) => [...words]),
  ).map((line) => squeezed(before, line));
  const lines = linesIn(page, b);
  return lines.length > heads.length && heads.every((text, i) => squeezed(page, lines[i]) === text) ? heads.length : 0;
}

const linesIn = (page: PageContent, { cells }: Reading): Line[] =>
  linesOf(page.words, [...new Set(cells.flatMap(({ words }) => [...words]))]);

const squeezed = (page: PageContent, { words }: Pick<Line, 'words'>): string =>
  textOf(page.words, words).replace(/\s+/g, '').toLowerCase();

const headingWords = ({ cells, headingRows }: Reading): string =>
  cells
    .filter(({ row }) => row < headingRows)
    .map(({ text }) => text.replace(/\s+/g, '').toLowerCase())
    .join('');

/** As many columns, each where the one of its number stands in the other. */
const standsInSame = (a: Reading, b: Reading): boolean =>
  a.columns.length === b.columns.length &&
  b.columns.every(([left, right], i) =>
    a.columns.every(
      ([l, r], other) =>
        other === i || overlap(left, right, l, r) <= overlap(left, right, a.columns[i][0], a.columns[i][1]),
    ),
  );

/** Words no further apart than so many word spaces are of one text. */
const closest = 1.5;

/** The white space between the columns of a reading that the texts of these lines leave free as well; undefined where one stands across. */
function guttersBetween(page: PageContent, lines: readonly Line[], of: Reading): Gutter[] | undefined {
  const space = spaceOf(page, lines);
  const texts = lines.flatMap((line) => phrasesOf(page, line, 0, closest * space).map(({ box }) => box));
  const own = of.columns.map((_, column) =>
    of.cells.filter((cell) => cell.column === column && cell.columnSpan === 1).map(({ box }) => box),
  );
  const gutters = of.columns.slice(1).map(([cut], i): Gutter => {
    const end = Math.max(...own[i].map((box) => box[2]));
    const start = Math.min(...own[i + 1].map((box) => box[0]));
    // Where texts reach over each other, or a column holds none alone, what parted them there does so here.
    const [from, to] = end < start ? [end, start] : [cut, cut];
    const isLeft = (box: Box) => box[0] < from && box[2] > from - sliver;
    const isRight = (box: Box) => box[2] > to && box[0] < to + sliver;
    return {
      from: Math.max(from, ...texts.filter((box) => isLeft(box) && !isRight(box)).map((box) => box[2])),
      to: Math.min(to, ...texts.filter((box) => isRight(box) && !isLeft(box)).map((box) => box[0])),
    };
  });
  const stands = (box: Box) => gutters.some(({ from, to }) => box[0] < from - sliver && box[2] > to + sliver);
  return gutters.some(({ from, to }) => from > to + sliver) || texts.some(stands) ? undefined : gutters;
}
