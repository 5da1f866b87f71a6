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

/** Rows by the values of some columns, in the order in which these come first: the places of each group. */
export function grouped(columns: readonly { readonly cells: readonly unknown[] }[], count: number): number[][] {
  const groups = new Map<string, number[]>();
  for (let row = 0; row < count; row++) {
    const key = columns.length === 1 ? `${typeof columns[0].cells[row]} ${JSON.stringify(columns[0].cells[row])}` : JSON.stringify(columns.map(({ cells }) => cells[row]));
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  return [...groups.values()];
}
