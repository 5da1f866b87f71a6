import type { Box } from '../page/box';
import type { PageContent } from '../page/page';
import type { RowRole } from '../sheet/row';

/** Aligned with a modifier: the same white space, taken to mean other rows or other columns. With, without, joined, left and right: another extent. */
export const readingNames = [
  'tagged',
  'ruled',
  'aligned',
  'aligned by first column',
  'aligned by every line',
  'aligned otherwise',
  'with the line above',
  'with the line below',
  'without the top line',
  'joined with the next table',
  'left of the widest gap',
  'right of the widest gap',
  'drawn',
  'column after column',
  'line by line',
] as const;
export type ReadingName = (typeof readingNames)[number];

/** One cell of a reading. A spanned text stands once, at its first row and column. `words` index the page's words. */
export interface GridCell {
  readonly row: number;
  readonly column: number;
  readonly rowSpan: number;
  readonly columnSpan: number;
  readonly text: string;
  readonly words: readonly number[];
  readonly box: Box;
}

/** Hints about a row as printed; nothing is left out because of them. `indent` in points from the table's left edge. */
export interface GridRow {
  readonly box: Box;
  readonly role: RowRole;
  readonly indent: number;
  readonly bold: boolean;
  readonly shaded: boolean;
  /** More white space above it than is usual between the rows. */
  readonly spaced?: boolean;
  /** A rule between it and the row above. */
  readonly ruled?: boolean;
  /** It is the end of the last row of the piece before, which the page cuts. */
  readonly goesOn?: true;
}

/** One way of turning the marks of a piece into rows and columns. */
export interface Reading {
  readonly name: ReadingName;
  /** 0 to 1: how well the grid agrees with the marks. */
  readonly score: number;
  /** Why this score, in a sentence. */
  readonly reason: string;
  /** Left and right edge of each column, in points. */
  readonly columns: readonly (readonly [left: number, right: number])[];
  readonly rows: readonly GridRow[];
  readonly cells: readonly GridCell[];
  /** How many rows at the top are heading rows. */
  readonly headingRows: number;
}

/** The part of a found table that stands on one page. */
export interface Piece {
  readonly id: string;
  /** Counted from 1. */
  readonly page: number;
  readonly box: Box;
  readonly title?: string;
  readonly titleWords: readonly number[];
  /** The piece on the page before that this one goes on from. */
  readonly continues: string | null;
  /** In order of confidence; never empty, no two with the same grid. */
  readonly readings: readonly Reading[];
}

export interface FoundTable {
  readonly id: string;
  readonly title?: string;
  readonly pieces: readonly Piece[];
}

/** All strategies share this face: the words of a region in, a grid out, or nothing when the marks do not bear it. */
export type ReadRegion = (page: PageContent, words: readonly number[], region: Box) => Reading | undefined;

/** The grid as plain rows of text: a spanned text once, "" in the rest. */
export function plainRows(reading: Reading): string[][] {
  const rows = reading.rows.map(() => new Array<string>(reading.columns.length).fill(''));
  for (const cell of reading.cells) rows[cell.row][cell.column] = cell.text;
  return rows;
}
