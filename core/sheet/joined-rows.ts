import { cellText, type Cell } from '../values/cell';
import { PairTable } from './pair-table';
import type { RowBook } from './row';

/** What many become by twos, in the form of a tree: it is as deep as the logarithm of their number. */
function byTwos(numbers: readonly number[], two: (a: number, b: number) => number): number {
  let level = [...numbers];
  while (level.length > 1) {
    const next: number[] = [];
    for (let at = 0; at < level.length; at += 2) next.push(at + 1 < level.length ? two(level[at], level[at + 1]) : level[at]);
    level = next;
  }
  return level[0];
}

/** The number of rows that became one; marks and name are those of the first. */
export const rowOf = (book: RowBook, rows: readonly number[]): number => byTwos(rows, (a, b) => book.merge(a, b));

/** The words behind many cells as one set. */
export function wordsOf({ origins }: RowBook, ids: readonly number[]): number {
  const own = [...new Set(ids.filter((id) => id >= 0))];
  return own.length === 0 ? -1 : byTwos(own, (a, b) => origins.union([a, b]));
}

/** A number for each row: rows with the same texts in all columns have the same. */
export function groupsOf(columns: readonly { readonly cells: readonly Cell[] }[], count: number): Int32Array {
  const groups = new Int32Array(count);
  for (const column of columns) {
    const texts = new Map<string, number>();
    const pairs = new PairTable();
    for (let row = 0; row < count; row++) {
      const text = cellText(column.cells[row]);
      let number = texts.get(text);
      if (number === undefined) texts.set(text, (number = texts.size));
      groups[row] = pairs.id(groups[row], number);
    }
  }
  return groups;
}

/** The places of the rows of each group, in the order in which the groups come first. */
export function grouped(columns: readonly { readonly cells: readonly Cell[] }[], count: number): number[][] {
  const groups = new Map<number, number[]>();
  groupsOf(columns, count).forEach((number, row) => {
    const group = groups.get(number);
    if (group) group.push(row);
    else groups.set(number, [row]);
  });
  return [...groups.values()];
}
