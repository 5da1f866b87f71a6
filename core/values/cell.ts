/** A text that does not fit its column's type: the text is kept, and what was expected. */
export interface ErrorCell {
  readonly text: string;
  readonly expected: string;
}

export type Cell = string | number | boolean | null | ErrorCell;

export const isError = (cell: Cell): cell is ErrorCell => typeof cell === 'object' && cell !== null;
export const isBlank = (cell: Cell): boolean => cell === null || cell === '';

/** What is shown of a cell; an error cell shows the text that did not fit. */
export const cellText = (cell: Cell): string => (cell === null ? '' : isError(cell) ? cell.text : String(cell));
