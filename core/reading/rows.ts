import { around, extend, height, overlapY, width, type Box } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesInColumns, type InColumns, type Layout } from './columns';
import { looksNumeric } from './numeric';

/** A row of a table: one line of print or several that belong together. */
export interface Band {
  box: Box;
  lines: Line[];
}

/** Rows between drawn lines or shading: every line of print goes to the band that holds its middle. */
export function bandsBetween(page: PageContent, words: readonly number[], cuts: readonly number[]): Band[] {
  const lines = linesOf(page.words, words);
  const bands = cuts.slice(1).map((cut, i): Band => ({ box: [-Infinity, cuts[i], Infinity, cut], lines: [] }));
  for (const line of lines) {
    const middle = (line.box[1] + line.box[3]) / 2;
    const band = bands.find((b) => middle >= b.box[1] && middle < b.box[3]) ?? (middle < cuts[0] ? bands[0] : bands.at(-1));
    band?.lines.push(line);
  }
  return bands.filter((band) => band.lines.length > 0);
}

const pitches = (lines: readonly Line[]) => lines.slice(1).map((line, i) => line.box[3] - lines[i].box[3]);

/** Lines of one text follow each other by at most this many font sizes; rows of a table are set wider. */
const widestLeading = 1.45;

/**
 * Rows from lines of print. Lines join when the marks say so: where some lines follow closely (the leading of running
 * text) and the rows stand clearly further apart; or where a text goes on below with a word that found no room on the
 * line above, beside blank keys and amounts. Two amounts in one column are two rows. When in doubt lines stay rows of
 * their own.
 */
export function bandsByLeading(page: PageContent, all: readonly Line[], layout: Layout): Band[] {
  const between = linesBetween(page, all, layout);
  const lines = all.filter((line) => !between.has(line));
  const cells = lines.map((line) => phrasesInColumns(page, line, layout));
  const amounts = lines.map((line) => amountColumns(page, line, layout));
  const gaps = pitches(lines);
  const tight = Math.min(...gaps);
  const wide = gaps.filter((gap) => gap > 1.2 * tight);
  const wrapped = gaps.length >= 2 && wide.length >= 0.3 * gaps.length;
  const runsOn = textsThatRunOn(page, lines, cells, layout);
  const bands: (Band & { amounts: Set<number> })[] = [];
  lines.forEach((line, i) => {
    const open = bands.at(-1);
    const close = i > 0 && gaps[i - 1] <= 1.12 * tight && gaps[i - 1] < widestLeading * line.fontSize;
    const raised = open && overlapY(open.box, line.box) > 0.3 * height(line.box);
    const goesOn = open && wrapped && close && cells[i].length < layout.columns.length && ![...amounts[i]].some((column) => open.amounts.has(column));
    if (open && (raised || goesOn || runsOn[i])) {
      join(open, line);
      amounts[i].forEach((column) => open.amounts.add(column));
    } else bands.push({ box: line.box, lines: [line], amounts: amounts[i] });
  });
  for (const [line, above] of between) join(bands.find((band) => band.lines.includes(above))!, line);
  return bands;
}

/**
 * Lines at middle height between two rows, in columns that both leave blank: labels that run over both. Each comes with
 * the line above, to whose row it goes.
 */
function linesBetween(page: PageContent, lines: readonly Line[], layout: Layout): Map<Line, Line> {
  const columns = lines.map((line) => phrasesInColumns(page, line, layout).flatMap(({ column, columnSpan }) => Array.from({ length: columnSpan }, (_, i) => column + i)));
  const between = new Map<Line, Line>();
  lines.forEach((line, i) => {
    const [above, below] = [lines[i - 1], lines[i + 1]];
    if (!above || !below || between.has(above)) return;
    const touches = (other: Line) => overlapY(line.box, other.box) > 0.15 * height(line.box);
    const apart = (other: number) => columns[i].every((column) => !columns[other].includes(column));
    const rowsApart = overlapY(above.box, below.box) < 0.15 * height(line.box);
    if (rowsApart && touches(above) && touches(below) && apart(i - 1) && apart(i + 1)) between.set(line, above);
  });
  return between;
}

/**
 * How many rows may go on from the row above without the marks saying so: text under text beside a blank first column,
 * below the first row under the heading.
 */
export function doubtfulRows(page: PageContent, bands: readonly Band[], layout: Layout): number {
  const first = bands.findIndex((band, i) => i > 0 && band.lines.some((line) => phrasesInColumns(page, line, layout)[0]?.column === 0));
  return bands.filter((band, i) => {
    if (first < 0 || i <= first || band.lines.length > 1) return false;
    const cells = phrasesInColumns(page, band.lines[0], layout);
    return cells.length <= 0.5 * layout.columns.length && cells.every(({ column, words }) => column > 0 && !looksNumeric(textOf(page.words, words)));
  }).length;
}

/** The doubt in words, to follow the reason of a reading; empty where there is none. */
export const doubtIn = (rows: number) => (rows === 0 ? '' : ` ${rows} ${rows === 1 ? 'row' : 'rows'} may go on from the row above; they were left apart.`);

/** Every line of print a row. */
export const bandsByLine = (lines: readonly Line[]): Band[] => lines.map((line) => ({ box: line.box, lines: [line] }));

/** Rows by the first column: a line that leaves it blank goes on from the row above. */
export function bandsByKey(page: PageContent, lines: readonly Line[], layout: Layout): Band[] {
  const bands: Band[] = [];
  for (const line of lines) {
    const open = bands.at(-1);
    if (open && phrasesInColumns(page, line, layout).every(({ column }) => column > 0)) join(open, line);
    else bands.push({ box: line.box, lines: [line] });
  }
  return bands;
}

type Placed = readonly InColumns[];

/** A column of wrapped text is at least this many font sizes wide. */
const leastMeasure = 6;

/**
 * Which lines only hold text that goes on from the line above: the first column is blank, no cell is an amount, and the
 * first word of each cell would not have fit at the end of the text above it.
 */
function textsThatRunOn(page: PageContent, lines: readonly Line[], cells: readonly Placed[], layout: Layout): boolean[] {
  const boxOf = (words: readonly number[]) => around(words.map((w) => page.words[w].box))!;
  const widest = layout.columns.map((_, column) =>
    Math.max(0, ...cells.flatMap((line) => line.filter((cell) => cell.column === column && cell.columnSpan === 1).map((cell) => width(boxOf(cell.words))))),
  );
  return lines.map((line, i) => {
    if (i === 0 || cells[i].length > 0.5 * layout.columns.length) return false;
    const closely = line.box[1] - lines[i - 1].box[3] < 0.5 * line.fontSize;
    return closely && cells[i].every(({ column, columnSpan, words }) => {
      const above = cells[i - 1].find((cell) => cell.column === column && cell.columnSpan === 1);
      if (column === 0 || columnSpan > 1 || !above || looksNumeric(textOf(page.words, words)) || widest[column] < leastMeasure * line.fontSize) return false;
      return width(boxOf(above.words)) + layout.space + width(page.words[words[0]].box) > widest[column];
    });
  });
}

/** Columns in which a line of print has an amount. */
const amountColumns = (page: PageContent, line: Line, layout: Layout): Set<number> =>
  new Set(phrasesInColumns(page, line, layout).flatMap(({ column, words }) => (looksNumeric(textOf(page.words, words)) ? [column] : [])));

/** Does a band hold two lines with an amount in the same column? Then it is more than one row, whatever the rules say. */
export function holdsSeveralRows(page: PageContent, lines: readonly Line[], layout: Layout): boolean {
  const seen = new Set<number>();
  return lines.some((line) => {
    const own = amountColumns(page, line, layout);
    const again = [...own].some((column) => seen.has(column));
    own.forEach((column) => seen.add(column));
    return again;
  });
}

function join(band: Band, line: Line) {
  band.lines.push(line);
  band.box = extend(band.box, line.box);
}
