import { overlapY, type Box } from '../page/box';
import { goesOnWith } from '../reading/continuation';
import type { FoundTable, Piece } from '../reading/found-table';
import { looksNumeric } from '../values/numeric';
import { goesWith } from './outlines';

/** A found table that most likely is the rest of another, and how it would be joined to it. */
export interface Rest {
  readonly place: 'below' | 'beside';
  readonly table: string;
  readonly page: number;
}

/** Rows of two pieces beside each other stand on one line within this many points. */
const level = 3;

/**
 * The found table in which another one goes on, if there is one: below it or overleaf with the same columns and no
 * heading of its own, or beside it with the same rows and no labels of its own.
 * @param free the found tables that nothing takes
 */
export function restOf(table: FoundTable, free: readonly FoundTable[]): Rest | undefined {
  const last = table.pieces.at(-1)!;
  const order = [...free].sort(
    (a, b) => a.pieces[0].page - b.pieces[0].page || a.pieces[0].box[1] - b.pieces[0].box[1],
  );
  for (const other of order) {
    const [first] = other.pieces;
    if (goesWith(last, first, 'below') && goesOnWith(last.readings[0], first.readings[0]))
      return { place: 'below', table: other.id, page: first.page };
    if (goesWith(last, first, 'beside') && hasRowsOf(last, first))
      return { place: 'beside', table: other.id, page: first.page };
  }
  return undefined;
}

/** Does a piece stand on the lines of another's rows, without labels that would make rows of its own? */
function hasRowsOf(left: Piece, right: Piece): boolean {
  const [a, b] = [left.readings[0], right.readings[0]];
  const onLevel = b.rows.filter(({ box }: { box: Box }) =>
    a.rows.some((row) => Math.abs(row.box[3] - box[3]) <= level),
  ).length;
  const first = b.cells.filter((cell) => cell.column === 0 && cell.row >= b.headingRows);
  const labelled = first.filter((cell) => !looksNumeric(cell.text)).length > 0.3 * first.length;
  return (
    !labelled &&
    onLevel >= 0.9 * b.rows.length &&
    overlapY(left.box, right.box) > 0.8 * Math.min(left.box[3] - left.box[1], right.box[3] - right.box[1])
  );
}
