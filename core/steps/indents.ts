import { filledColumns, type Sheet } from '../sheet/sheet';

/** Indents, in points, that differ less than this are one. */
export const sameIndent = 2;

/** Where each level of some indents begins, the outermost first. */
export const indentLevels = (indents: readonly number[]): number[] =>
  [...indents].sort((a, b) => a - b).filter((indent, i, all) => i === 0 || indent - all[i - 1] > sameIndent);

/** Numbers the levels of some indents from 1, the outermost first. */
export function indentRanks(indents: readonly number[]): (indent: number) => number {
  const starts = indentLevels(indents);
  return (indent) => starts.filter((start) => start <= indent).length;
}

/** Does the next row of the report stand further in, with its text in the same column? */
export function standsOverIndented(sheet: Sheet, row: number): boolean {
  const { rows } = sheet;
  const next = row + 1;
  return (
    next < rows.length &&
    rows.inSameReport(row, next) &&
    rows.indent(next) - rows.indent(row) > sameIndent &&
    filledColumns(sheet, next)[0] === filledColumns(sheet, row)[0]
  );
}
