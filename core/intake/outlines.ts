import { around, holdsCentre, overlapX, overlapY, type Box } from '../page/box';
import type { PageContent } from '../page/page';
import type { FoundTable, Piece, Reading } from '../reading/found-table';
import { readingsOf } from '../reading/page-tables';
import { likeness } from './likeness';
import type { TakeRule } from './take-rule';

type PageOf = (number: number) => PageContent;

/** The words that a piece holds. */
export const wordsOf = (piece: Piece): number[] => [...new Set(piece.readings[0].cells.flatMap((cell) => cell.words))];

/** The piece with other words: read anew within its new outline. Undefined when nothing can be read there. */
function reread(piece: Piece, page: PageContent, words: readonly number[]): Piece | undefined {
  const box = around(words.map((w) => page.words[w].box));
  const readings = box ? readingsOf(page, { box, words, by: 'space' }) : [];
  return box && readings.length > 0 ? { ...piece, box, readings } : undefined;
}

/**
 * Joins a table with the next ones below it (or beside it) that go with it: on one page they are read as one, overleaf
 * they are further pieces. A table with a title of its own does not go with it.
 */
export function joined(
  table: FoundTable,
  tables: readonly FoundTable[],
  pageOf: PageOf,
  { place, tables: count }: NonNullable<TakeRule['join']>,
): { table: FoundTable; others: string[] } {
  const others: string[] = [];
  let pieces = [...table.pieces];
  for (let n = 0; n < count; n++) {
    const last = pieces.at(-1)!;
    const next = tables
      .filter((each) => each.id !== table.id && !others.includes(each.id) && goesWith(last, each.pieces[0], place))
      .sort(
        (a, b) =>
          a.pieces[0].page - b.pieces[0].page ||
          a.pieces[0].box[place === 'below' ? 1 : 0] - b.pieces[0].box[place === 'below' ? 1 : 0],
      )[0];
    if (!next) break;
    const [first, ...rest] = next.pieces;
    if (first.page === last.page) {
      const one = reread(last, pageOf(last.page), [...wordsOf(last), ...wordsOf(first)]);
      if (!one) break;
      pieces = [...pieces.slice(0, -1), one, ...rest];
    } else pieces = [...pieces, { ...first, continues: last.id }, ...rest];
    others.push(next.id);
  }
  return { table: { ...table, pieces }, others };
}

/** May a piece be joined to another at this place? */
export function goesWith(above: Piece, piece: Piece, place: 'below' | 'beside'): boolean {
  if (place === 'beside')
    return (
      piece.page === above.page &&
      piece.box[0] >= above.box[2] - 1 &&
      overlapY(piece.box, above.box) > 0.5 * Math.min(piece.box[3] - piece.box[1], above.box[3] - above.box[1])
    );
  const under = piece.page === above.page ? piece.box[1] >= above.box[3] - 1 : piece.page === above.page + 1;
  return (
    under &&
    piece.title === undefined &&
    overlapX(piece.box, above.box) > 0.5 * Math.min(piece.box[2] - piece.box[0], above.box[2] - above.box[0])
  );
}

/**
 * One part of a table that is two: cut above the first row, or left of the column, that has this text. Other pieces
 * than the one cut go to the part that they stand in.
 * @returns undefined when the text is not there
 */
export function cutApart(
  table: FoundTable,
  pageOf: PageOf,
  { by, text, part }: NonNullable<TakeRule['cut']>,
): FoundTable | undefined {
  const pieces: Piece[] = [];
  let seen = false;
  for (const piece of table.pieces) {
    const page = pageOf(piece.page);
    const at =
      by === 'row' ? (seen ? undefined : rowWith(piece.readings[0], text)) : columnWith(piece.readings[0], text);
    if (at === undefined) {
      if (by === 'row' ? seen === (part === 'from there') : false) pieces.push(piece);
      continue;
    }
    seen = true;
    const words = wordsOf(piece).filter((w) =>
      isBefore(page.words[w].box, at, by) ? part === 'before' : part === 'from there',
    );
    const own = reread(piece, page, words);
    if (own) pieces.push(own);
  }
  return seen && pieces.length > 0 ? { ...table, pieces } : undefined;
}

const isBefore = (box: Box, at: number, by: 'row' | 'column') =>
  by === 'row' ? (box[1] + box[3]) / 2 < at : (box[0] + box[2]) / 2 < at;

/** A text is the one asked for when it has most of its words. */
const sameText = 0.75;

/** Where the first row begins that has the text in one of its cells, or altogether. */
function rowWith(reading: Reading, text: string): number | undefined {
  const cells = reading.cells.filter((cell) => cell.row > 0 && likeness(cell.text, text) >= sameText);
  const row =
    cells.length > 0
      ? Math.min(...cells.map((cell) => cell.row))
      : reading.rows.findIndex((_, i) => i > 0 && likeness(rowText(reading, i), text) >= sameText);
  if (row < 1) return undefined;
  return (
    (Math.max(...reading.rows.slice(0, row).map((each) => Math.min(each.box[3], reading.rows[row].box[3]))) +
      reading.rows[row].box[1]) /
    2
  );
}

const rowText = (reading: Reading, row: number) =>
  reading.cells
    .filter((cell) => cell.row === row)
    .map((cell) => cell.text)
    .join(' ');

/** Where the column begins whose heading has the text; of several the last, which heads the second table. */
function columnWith(reading: Reading, text: string): number | undefined {
  const cell = reading.cells
    .filter(
      (each) => each.row < Math.max(1, reading.headingRows) && each.column > 0 && likeness(each.text, text) >= sameText,
    )
    .at(-1);
  if (!cell) return undefined;
  const left = Math.min(...reading.cells.filter((each) => each.column >= cell.column).map((each) => each.box[0]));
  const right = Math.max(
    ...reading.cells.filter((each) => each.column + each.columnSpan <= cell.column).map((each) => each.box[2]),
  );
  return Number.isFinite(right) && right < left ? (left + right) / 2 : left - 1;
}

/** Words of a page, set upright, whose middle lies in a box. */
export const wordsIn = (page: PageContent, box: Box): number[] =>
  page.words.flatMap((word, i) => (word.angle === 0 && holdsCentre(box, word.box) ? [i] : []));
