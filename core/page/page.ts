import type { Box } from './box';

/** A merged glyph run that crosses no wide gap. Sizes in points, angle in degrees clockwise (0: upright). */
export interface Word {
  readonly text: string;
  readonly box: Box;
  readonly baseline: number;
  readonly fontSize: number;
  readonly weight: 400 | 700;
  readonly italic: boolean;
  readonly angle: number;
  /** A space stands before it, though hardly any room: kerning drew the words together. */
  readonly afterSpace?: boolean;
  /** Marked-content number of the structure tree, where the file is tagged. */
  readonly tag?: number;
}

/** A drawn straight line: across at y = `at` or down at x = `at`, `from` below `to`. */
export interface Rule {
  readonly direction: 'across' | 'down';
  readonly at: number;
  readonly from: number;
  readonly to: number;
  readonly thickness: number;
}

export interface Fill {
  readonly box: Box;
  readonly colour: string;
}

export interface Picture {
  readonly box: Box;
}

/** A cell by the file's structure tags: the marked-content numbers that its words carry as `tag`. */
export interface TaggedCell {
  readonly heading: boolean;
  readonly content: readonly number[];
}

export interface TaggedRow {
  readonly cells: readonly TaggedCell[];
}

/** A table, or the part of one on this page, as the file's structure tags tell it. */
export interface TaggedTable {
  readonly caption: readonly number[];
  readonly rows: readonly TaggedRow[];
}

/** What is printed on one page, in reading coordinates: points, origin top left, page rotation undone. */
export interface PageContent {
  /** Counted from 1. */
  readonly number: number;
  /** The page label printed or declared by the file, where it has any. */
  readonly label?: string;
  readonly width: number;
  readonly height: number;
  readonly words: readonly Word[];
  readonly rules: readonly Rule[];
  readonly fills: readonly Fill[];
  readonly pictures: readonly Picture[];
  /** Tables of the structure tree, where the file is tagged. */
  readonly tagged?: readonly TaggedTable[];
}
