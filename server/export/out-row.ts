/** A text that did not fit its column: an error cell, blank wherever values are typed. */
export interface ErrorCell {
  readonly text: string;
  readonly expected: string;
}
export type OutCell = string | number | boolean | null | ErrorCell;
export const isErrorCell = (cell: OutCell): cell is ErrorCell => typeof cell === 'object' && cell !== null;

export interface OutRow {
  /** Path of its report, and the page. */
  readonly report: string;
  readonly page: number;
  readonly cells: readonly OutCell[];
}
