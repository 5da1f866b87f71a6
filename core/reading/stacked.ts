import { around, middleY } from '../page/box';
import type { PageContent } from '../page/page';
import type { GridCell, Reading } from './found-table';
import { looksNumeric } from '../values/numeric';
import type { Region } from './regions/regions';
import { columnsOfAmounts } from './roles';

/** Rows below their headings that the table above has at least, and rows that the one below has with its heading. */
const fewestAbove = 2;
const fewestBelow = 2;

/**
 * The tables of unlike form that stand in one region under one another, as marks or a shared grid held them together. A row heads
 * another table when it is marked as the heading is (bold or shaded, as the row under it is not), or has words over amounts where no
 * heading is marked; white space sets it off, and it says other things. What heads the same columns anew parts nothing.
 */
export function partsStacked(
  page: PageContent,
  region: Region,
  { rows, columns, cells, headingRows }: Reading,
): Region[] {
  if (headingRows === 0) return [region];
  const texts: GridCell[][] = rows.map(() => []);
  for (const cell of cells) texts[cell.row].push(cell);
  const isMarked = rows[0].bold || rows[0].shaded;
  const marked = (row: number) => (rows[0].bold ? rows[row].bold : rows[0].shaded && rows[row].shaded);
  const amounts = columnsOfAmounts(cells, columns.length);
  // Without any mark, words over what are amounts in the other rows tell it.
  const overAmounts = (row: number) =>
    !isMarked && texts[row].filter(({ column, text }) => amounts.has(column) && /\p{L}{3}/u.test(text)).length >= 2;
  const usual = cells.length / rows.length;
  const named = ({ column, text }: GridCell) => `${column} ${text.toLowerCase()}`;
  const heading = new Set(cells.filter(({ row }) => row < headingRows).map(named));
  const heads = (row: number) => {
    const own = texts[row];
    const known = own.filter((cell) => heading.has(named(cell))).length;
    return (
      (isMarked ? marked(row) && !marked(row + 1) : overAmounts(row)) &&
      own.length >= 2 &&
      own.length * 2 >= usual &&
      own.every(({ text }) => !looksNumeric(text) && /\p{L}/u.test(text)) &&
      known * 2 < own.length
    );
  };
  const isLabel = (row: number) => texts[row].length === 1 && texts[row][0].column === 0;
  const starts: { readonly row: number; readonly title: boolean }[] = [];
  for (let row = headingRows + fewestAbove; row <= rows.length - fewestBelow; row++) {
    const title = isLabel(row - 1);
    if ((rows[row].spaced || (title && rows[row - 1].spaced)) && heads(row)) starts.push({ row, title });
  }
  // Where they come again and again they head groups of rows.
  if (starts.length === 0 || starts.length > mostParts) return [region];
  const cuts = starts.map(({ row }) => (rows[row - 1].box[3] + rows[row].box[1]) / 2);
  const titles = new Set(
    starts.flatMap(({ row, title }) => (title ? texts[row - 1].flatMap(({ words }) => words) : [])),
  );
  return [...cuts, Infinity].map((to, n) => {
    const from = cuts[n - 1] ?? -Infinity;
    const words = region.words.filter(
      (w) => !titles.has(w) && middleY(page.words[w].box) > from && middleY(page.words[w].box) <= to,
    );
    const box = around(words.map((w) => page.words[w].box))!;
    return { ...region, words, box };
  });
}

const mostParts = 3;
