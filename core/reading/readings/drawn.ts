import { around, middleX, middleY, type Box } from '../../page/box';
import { linesOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import type { Reading } from '../found-table';
import { asReading, closeGrid, type Slot } from '../grid';

/** Where a word goes whole that stands across a separator: to the side that holds most of it, or always to one. */
export const keeps = ['most', 'left', 'right'] as const;

/** A separator between two columns. */
export interface ColumnSeparator {
  readonly at: number;
  readonly keep: (typeof keeps)[number];
}

/** Separators in points of the page that is read. */
export interface Separators {
  readonly columns: readonly ColumnSeparator[];
  readonly rows: 'as read' | 'every line' | 'first column' | 'drawn';
  readonly cuts: readonly number[];
}

/** Letters may reach this far over a separator, in points, and still stand on their side of it. */
const sliver = 0.8;

const stands = (box: Box, at: number): boolean => box[0] < at - sliver && box[2] > at + sliver;

/** Words that stand across a separator. */
export const wordsAcross = (page: PageContent, words: readonly number[], { columns }: Separators): number[] =>
  words.filter((w) => columns.some(({ at }) => stands(page.words[w].box, at)));

/** How many separators lie left of a word: the number of its column. */
const columnOf = (box: Box, columns: readonly ColumnSeparator[]): number =>
  columns.filter(({ at, keep }) => (keep !== 'most' && stands(box, at) ? keep === 'right' : middleX(box) > at)).length;

/**
 * Reads a region by separators put by hand.
 * @param base the reading from which the drawing began: its rows, where these are not drawn, and its headings over several columns
 */
export function readDrawn(
  page: PageContent,
  words: readonly number[],
  region: Box,
  separators: Separators,
  base: Reading | undefined,
): Reading | undefined {
  const columns = [...separators.columns].sort((a, b) => a.at - b.at);
  const rows = rowsOf(page, words, { ...separators, columns }, base);
  const edges = [
    Math.min(region[0], ...columns.map(({ at }) => at)),
    ...columns.map(({ at }) => at),
    Math.max(region[2], ...columns.map(({ at }) => at)),
  ];
  const spans = headingSpans(page, base, edges);
  const slots = new Map<string, Slot>();
  rows.forEach((own, row) => {
    for (const w of own) {
      const spanned = spans.get(w);
      const column = spanned?.column ?? columnOf(page.words[w].box, columns);
      const key = `${row} ${column}`;
      const slot = slots.get(key) ?? { row, column, rowSpan: 1, columnSpan: spanned?.columnSpan ?? 1, words: [] };
      slot.words.push(w);
      slots.set(key, slot);
    }
  });
  const across = wordsAcross(page, words, separators).length;
  return asReading(
    closeGrid(page, {
      slots: [...slots.values()],
      rows: rows.map((own) => around(own.map((w) => page.words[w].box))!),
      columns: edges.slice(1).map((right, i): [number, number] => [edges[i], right]),
      keepColumns: true,
    }),
    'drawn',
    1,
    `Separators put by hand part ${edges.length - 1} columns${across > 0 ? `; ${across} ${across === 1 ? 'word stands' : 'words stand'} across one and ${across === 1 ? 'is' : 'are'} kept whole` : ''}.`,
  );
}

function rowsOf(
  page: PageContent,
  words: readonly number[],
  { rows, cuts, columns }: Separators,
  base: Reading | undefined,
): number[][] {
  if (rows === 'drawn') {
    const at = [...cuts].sort((a, b) => a - b);
    const bands = Array.from({ length: at.length + 1 }, (): number[] => []);
    for (const w of words) bands[at.filter((cut) => middleY(page.words[w].box) > cut).length].push(w);
    return bands.filter((band) => band.length > 0);
  }
  if (rows === 'as read' && base) {
    const among = new Set(words);
    const bands = base.rows.map((_, row) =>
      base.cells.filter((cell) => cell.row === row).flatMap((cell) => cell.words.filter((w) => among.has(w))),
    );
    const seen = new Set(bands.flat());
    const missed = words.filter((w) => !seen.has(w));
    return [...bands, ...linesOf(page.words, missed).map((line) => [...line.words])].filter((band) => band.length > 0);
  }
  const lines = linesOf(page.words, words);
  if (rows !== 'first column') return lines.map((line) => [...line.words]);
  const bands: number[][] = [];
  const begins = (line: Line) => line.words.some((w) => columnOf(page.words[w].box, columns) === 0);
  for (const line of lines) {
    if (bands.length === 0 || begins(line)) bands.push([...line.words]);
    else bands.at(-1)!.push(...line.words);
  }
  return bands;
}

/** Words of one heading stand this near to each other, in font sizes. */
const headingGap = 0.6;

/** For words of headings that run over several columns: the drawn columns that they run over. */
function headingSpans(
  page: PageContent,
  base: Reading | undefined,
  edges: readonly number[],
): Map<number, { column: number; columnSpan: number }> {
  const spans = new Map<number, { column: number; columnSpan: number }>();
  for (const cell of base?.cells ?? []) {
    if (cell.row >= base!.headingRows || cell.columnSpan < 2) continue;
    const [left, right] = [base!.columns[cell.column][0], base!.columns[cell.column + cell.columnSpan - 1][1]];
    const over = edges
      .slice(1)
      .flatMap((end, i) => ((edges[i] + end) / 2 > left && (edges[i] + end) / 2 < right ? [i] : []));
    const apart = cell.words
      .slice(1)
      .some((w, i) => page.words[w].box[0] - page.words[cell.words[i]].box[2] > headingGap * page.words[w].fontSize);
    if (over.length > 1 && !apart)
      for (const w of cell.words) spans.set(w, { column: over[0], columnSpan: over.length });
  }
  return spans;
}

/** The separators that lie between the columns of a reading: in the middle of the white space there. */
export const separatorsOf = (reading: Reading): ColumnSeparator[] =>
  reading.columns.slice(1).map(([left], i) => {
    const [, right] = reading.columns[i];
    const ends = reading.cells
      .filter((cell) => cell.column + cell.columnSpan - 1 === i && cell.columnSpan === 1)
      .map((cell) => cell.box[2]);
    const starts = reading.cells
      .filter((cell) => cell.column === i + 1 && cell.columnSpan === 1)
      .map((cell) => cell.box[0]);
    const end = Math.max(...ends);
    const start = Math.min(...starts);
    const at = end <= start ? (end + start) / 2 : (right + left) / 2;
    return { at: Math.round((Number.isFinite(at) ? at : (right + left) / 2) * 10) / 10, keep: 'most' };
  });
