import { around, grow, middleX, type Box } from '../page/box';
import { isBold, linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { turnsToUpright } from '../page/turn';
import type { RowRole } from '../sheet/row';
import { looksNumeric } from '../values/numeric';
import { edgesIn, sameEdge } from './continuation';
import type { GridCell, GridRow, Piece, Reading } from './found-table';
import { phrasesOf } from './phrases';
import { readDrawn, separatorsOf } from './readings/drawn';
import { totalRole } from './roles';

/** So many of the texts of a row overleaf stand on an edge of their column. */
const enough = 0.75;
/** Rows follow each other by less than this many font sizes. */
const widestGap = 2.4;
/** A table that goes on ends below this part of its page, and what goes on begins above the other. */
const low = 0.6;
const high = 0.2;

/**
 * The last row or two of a table, alone at the top of the next page: too few to be told as a table by themselves, and
 * told by the columns of the table before.
 * @param last the lowest table of the page before
 * @param pieces the tables found on the page
 */
export function rowsOverleaf(
  last: Piece,
  before: PageContent,
  page: PageContent,
  furniture: ReadonlySet<number>,
  pieces: readonly Piece[],
): Piece | undefined {
  const [a] = last.readings;
  if (
    last.page !== page.number - 1 ||
    last.box[3] < low * before.height ||
    a.columns.length < 2 ||
    turnsToUpright(page) > 0 ||
    turnsToUpright(before) > 0
  )
    return undefined;
  const free = page.words.flatMap((word, i) => (word.angle === 0 && !furniture.has(i) ? [i] : []));
  const found: Line[] = [];
  for (const line of linesOf(page.words, free)) {
    const above = found.at(-1);
    const next = above ? line.box[1] - above.box[3] < widestGap * line.fontSize : line.box[1] < high * page.height;
    if (!next || pieces.some(({ box }) => box[1] < line.box[3]) || !fits(page, line, a)) break;
    found.push(line);
  }
  const words = found.flatMap((line) => [...line.words]);
  const box = around(words.map((w) => page.words[w].box));
  const reading =
    box && readDrawn(page, words, grow(box, 1), { columns: separatorsOf(a), rows: 'every line', cuts: [] }, undefined);
  if (!box || !reading) return undefined;
  const rows = reading.rows.map((row, at) => ({
    ...row,
    role: roleAlone(
      reading.cells.filter((cell) => cell.row === at),
      row.role,
      at === reading.rows.length - 1,
    ),
  }));
  return {
    id: `p${page.number}t${pieces.length + 1}`,
    page: page.number,
    box: grow(box, 1),
    titleWords: [],
    continues: null,
    readings: [
      {
        ...reading,
        rows,
        headingRows: 0,
        name: 'aligned',
        score: 0.7,
        reason: `On the columns of the table that ends the page before, ${found.length === 1 ? 'a row' : `${found.length} rows`} at the top of the page.`,
      },
    ],
  };
}

/**
 * A table that goes on overleaf with the labels that stand alone below its last row or are its last: set as its other labels of
 * sections are, they head the rows of the next page.
 */
export function withLabelsBelow(table: Piece, page: PageContent, furniture: ReadonlySet<number>): Piece {
  const last = withLabelsLast(table, page);
  const [a] = last.readings;
  if (turnsToUpright(page) > 0) return last;
  const below = linesOf(
    page.words,
    page.words.flatMap((word, i) =>
      word.angle === 0 && !furniture.has(i) && word.box[1] > last.box[3] - 1 ? [i] : [],
    ),
  );
  if (below.length === 0 || below.length > mostLabels) return last;
  const isSet = setAsSections(page, a);
  const isLabel = (line: Line) => phrasesOf(page, line, widestSpace).length === 1 && isSet(line);
  const isNext = (line: Line, i: number) =>
    line.box[1] - (below[i - 1]?.box[3] ?? last.box[3]) < widestGap * line.fontSize;
  if (!below.every((line, i) => isLabel(line) && isNext(line, i))) return last;
  const left = Math.min(...a.cells.map((cell) => cell.box[0]));
  const rows = below.map(({ box, words }): GridRow => ({
    box,
    role: 'section',
    indent: Math.round((box[0] - left) * 10) / 10,
    bold: isBold(page.words, words),
    shaded: false,
  }));
  const cells = below.map(({ box, words }, i): GridCell => ({
    row: a.rows.length + i,
    column: 0,
    rowSpan: 1,
    columnSpan: 1,
    text: textOf(page.words, words),
    words,
    box,
  }));
  return {
    ...last,
    box: grow(around([last.box, ...below.map(({ box }) => box)])!, 0),
    readings: [{ ...a, rows: [...a.rows, ...rows], cells: [...a.cells, ...cells] }, ...last.readings.slice(1)],
  };
}

/** Is a text set as the labels of sections of a reading are? */
function setAsSections(
  page: PageContent,
  { rows, cells }: Reading,
): (text: { readonly words: readonly number[]; readonly box: Box }) => boolean {
  const looks = (words: readonly number[]) =>
    `${isBold(page.words, words)} ${words.every((w) => page.words[w].italic)} ${Math.round(page.words[words[0]].fontSize)}`;
  const sections = rows.flatMap((row, at) => (row.role === 'section' ? cells.filter((cell) => cell.row === at) : []));
  return (text) =>
    sections.some(({ box, words }) => Math.abs(box[0] - text.box[0]) < sameEdge && looks(words) === looks(text.words));
}

/** The last row of a table that ends there may be a note on it; of one that goes on it is the label that it looks like. */
function withLabelsLast(last: Piece, page: PageContent): Piece {
  const [a] = last.readings;
  const at = a.rows.length - 1;
  const [own, ...others] = a.cells.filter((cell) => cell.row === at);
  if (a.rows[at]?.role !== 'note' || !own || others.length > 0 || !setAsSections(page, a)(own)) return last;
  return {
    ...last,
    readings: [
      { ...a, rows: a.rows.map((row, i): GridRow => (i === at ? { ...row, role: 'section' } : row)) },
      ...last.readings.slice(1),
    ],
  };
}

/** Labels of so many levels stand under one another at most. */
const mostLabels = 3;
/** Words of one text stand no further apart than so many font sizes. */
const widestSpace = 0.8;

/** What a row is by its own texts: too few rows stand with it to tell columns of amounts. */
export function roleAlone(cells: readonly GridCell[], role: RowRole, isLast: boolean): RowRole {
  const label = cells.find(({ text }) => !looksNumeric(text))?.text ?? '';
  const total = cells.some(({ text }) => looksNumeric(text)) ? totalRole(label, isLast) : undefined;
  return total ?? (role === 'heading' ? 'body' : role);
}

/** Do a line's words stand in several columns of a reading, most of them on an edge on which the texts there stand? */
function fits(page: PageContent, line: Line, reading: Reading): boolean {
  const { columns } = reading;
  const cuts = columns.slice(1).map(([left], i) => (left + columns[i][1]) / 2);
  const own = columns.map((): number[] => []);
  for (const w of line.words) own[cuts.filter((cut) => middleX(page.words[w].box) > cut).length].push(w);
  const filled = own.flatMap((words, column) =>
    words.length > 0 ? [{ box: around(words.map((w) => page.words[w].box))!, column }] : [],
  );
  const crossing = line.words.some((w) =>
    cuts.some((cut) => page.words[w].box[0] < cut - 1 && page.words[w].box[2] > cut + 1),
  );
  const isOnEdge = edgesIn(reading);
  return (
    !crossing &&
    filled.length >= 2 &&
    filled.filter(({ column, box }) => isOnEdge(column, box)).length >= enough * filled.length
  );
}
