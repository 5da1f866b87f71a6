import { around, grow, middleX, type Box } from '../page/box';
import { linesOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { turnsToUpright } from '../page/turn';
import type { RowRole } from '../sheet/row';
import { looksNumeric } from '../values/numeric';
import type { GridCell, Piece, Reading } from './found-table';
import { readDrawn, separatorsOf } from './readings/drawn';
import { totalRole } from './roles';

/** Edges within this many points are one edge. */
const sameEdge = 2.5;
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
export function rowsOverleaf(last: Piece, before: PageContent, page: PageContent, furniture: ReadonlySet<number>, pieces: readonly Piece[]): Piece | undefined {
  const [a] = last.readings;
  if (last.page !== page.number - 1 || last.box[3] < low * before.height || a.columns.length < 2 || turnsToUpright(page) > 0 || turnsToUpright(before) > 0) return undefined;
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
  const reading = box && readDrawn(page, words, grow(box, 1), { columns: separatorsOf(a), rows: 'every line', cuts: [] }, undefined);
  if (!box || !reading) return undefined;
  const rows = reading.rows.map((row, at) => ({ ...row, role: roleAlone(reading.cells.filter((cell) => cell.row === at), row.role, at === reading.rows.length - 1) }));
  return { id: `p${page.number}t${pieces.length + 1}`, page: page.number, box: grow(box, 1), titleWords: [], continues: null, readings: [{ ...reading, rows, headingRows: 0, name: 'aligned', score: 0.7, reason: `On the columns of the table that ends the page before, ${found.length === 1 ? 'a row' : `${found.length} rows`} at the top of the page.` }] };
}

/** What a row is by its own texts: too few rows stand with it to tell columns of amounts. */
export function roleAlone(cells: readonly GridCell[], role: RowRole, isLast: boolean): RowRole {
  const label = cells.find(({ text }) => !looksNumeric(text))?.text ?? '';
  const total = cells.some(({ text }) => looksNumeric(text)) ? totalRole(label, isLast) : undefined;
  return total ?? (role === 'heading' ? 'body' : role);
}

/** Do a line's words stand in several columns of a reading, most of them on an edge on which the texts there stand? */
function fits(page: PageContent, line: Line, { cells, columns, headingRows }: Reading): boolean {
  const cuts = columns.slice(1).map(([left], i) => (left + columns[i][1]) / 2);
  const own = columns.map((): number[] => []);
  for (const w of line.words) own[cuts.filter((cut) => middleX(page.words[w].box) > cut).length].push(w);
  const filled = own.flatMap((words, column) => (words.length > 0 ? [{ box: around(words.map((w) => page.words[w].box))!, column }] : []));
  const crossing = line.words.some((w) => cuts.some((cut) => page.words[w].box[0] < cut - 1 && page.words[w].box[2] > cut + 1));
  const onEdge = ({ box, column }: { box: Box; column: number }) =>
    cells.some((cell) => cell.row >= headingRows && cell.column === column && cell.columnSpan === 1 && (Math.abs(cell.box[0] - box[0]) < sameEdge || Math.abs(cell.box[2] - box[2]) < sameEdge));
  return !crossing && filled.length >= 2 && filled.filter(onEdge).length >= enough * filled.length;
}
