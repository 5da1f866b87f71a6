import type { Level } from '../../core/reading/levels';
import type { TruthTable } from '../scoring/score-files';

/** Random papers: one description of what is printed, which every writer sets in its own way, so that the tables on it are known. */

/** On which edge the texts of a column stand; on the decimal mark, figures of unlike decimals keep their marks in line. */
export type Side = 'left' | 'right' | 'centre' | 'decimal';

export interface Column {
  readonly side: Side;
  readonly headSide: Side;
  /** Texts wrap at so many characters. */
  readonly measure?: number;
  /** The sign of a currency stands at the left edge of the column, apart from the amount. */
  readonly signApart?: boolean;
}

export interface Cell {
  readonly text: string;
  readonly columns?: number;
  readonly rows?: number;
  readonly bold?: boolean;
  readonly indent?: number;
  /** The edge on which the text stands, where it is not its column's. */
  readonly side?: 'left' | 'right' | 'centre';
}

export interface Row {
  readonly kind: 'heading' | 'body' | 'section' | 'total' | 'spacer';
  /** A cell for each column; nothing where it is blank or another cell runs over it. */
  readonly cells: readonly (Cell | undefined)[];
  readonly bold?: boolean;
  /** A rule above the whole row, or above its figures only. */
  readonly ruleAbove?: 'row' | 'figures';
  readonly shaded?: boolean;
  /** Room above the row, in parts of the usual pitch. */
  readonly room?: number;
}

export type Style = 'none' | 'grid' | 'rows' | 'booktabs' | 'zebra' | 'box' | 'upright' | 'heading band';

export interface Sheet {
  readonly kind: 'sheet';
  readonly title?: string;
  readonly titleBelow?: boolean;
  /** A line between title and table. */
  readonly units?: string;
  readonly notes: readonly string[];
  readonly columns: readonly Column[];
  readonly headingRows: number;
  readonly rows: readonly Row[];
  readonly style: Style;
  /** Of the cells of a row, and of texts that run over several rows. */
  readonly level: Level;
  readonly levelOfSpans: Level;
  /** Least room between columns and size of type, in points; distance of rows in sizes. */
  readonly gutter: number;
  readonly size: number;
  readonly pitch: number;
  readonly spreads: boolean;
  /** The heading is printed again on each page. */
  readonly repeats: boolean;
  /** Dots lead from the labels to the first figures. */
  readonly leaders: boolean;
  /** A heading over several columns has a rule below it. */
  readonly ruledSpans: boolean;
}

export type Block =
  | Sheet
  | { readonly kind: 'prose'; readonly text: string }
  | { readonly kind: 'heading'; readonly text: string }
  | { readonly kind: 'points'; readonly texts: readonly string[] }
  | { readonly kind: 'chart'; readonly labels: readonly string[]; readonly heights: readonly number[] }
  | { readonly kind: 'address'; readonly lines: readonly string[] }
  /** Figures each in a box of its own, its label above or below: neither a table nor wrong as one. */
  | {
      readonly kind: 'tiles';
      readonly labels: readonly string[];
      readonly figures: readonly string[];
      readonly framed: boolean;
      readonly labelsBelow: boolean;
    }
  | { readonly kind: 'beside'; readonly left: readonly Block[]; readonly right: readonly Block[] };

export interface Paper {
  readonly name: string;
  readonly blocks: readonly Block[];
  readonly runningHead?: string;
  readonly numbered: boolean;
  /** What is special about the paper, in words: failures are counted by these. */
  readonly properties: readonly string[];
}

/** Does a text over several columns or rows cover a cell? */
export const isCovered = ({ rows }: Sheet, row: number, column: number): boolean =>
  rows[row].cells.some((other, at) => other?.columns !== undefined && at < column && at + other.columns > column) ||
  rows.slice(0, row).some(({ cells }, above) => above + (cells[column]?.rows ?? 1) > row);

/** On which edge the text of a cell stands. */
export const sideOf = ({ columns }: Sheet, { kind }: Row, column: number, cell: Cell | undefined): Side =>
  cell?.side ??
  (cell?.columns
    ? 'centre'
    : kind === 'heading'
      ? columns[column].headSide
      : kind === 'section'
        ? 'left'
        : columns[column].side);

/** The figures of tiles as a table that may be found or not. */
export const optionalTable = (
  { labels, figures, labelsBelow }: Extract<Block, { kind: 'tiles' }>,
  id: string,
  page: number,
): TruthTable => ({
  id,
  page,
  continues: null,
  title: null,
  headerRows: 1,
  optional: true,
  cells: (labelsBelow ? [figures, labels] : [labels, figures]).flatMap((texts, row) =>
    texts.map((text, col) => ({ row, col, text })),
  ),
});

/** Sheets of blocks in the order in which they are drawn. */
export const sheetsOf = (blocks: readonly Block[]): Sheet[] =>
  blocks.flatMap((block) =>
    block.kind === 'sheet'
      ? [block]
      : block.kind === 'beside'
        ? [...sheetsOf(block.left), ...sheetsOf(block.right)]
        : [],
  );
