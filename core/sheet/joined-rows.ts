import { cellText, type Cell } from '../values/cell';
import { PairTable } from './pair-table';
import type { RowBook } from './row';

/** The number of rows that became one; marks and name are those of the first. @param of their numbers, or with `at` those at these places */
export const rowOf = (book: RowBook, of: ArrayLike<number>, at?: ArrayLike<number>): number =>
  book.mergeMany(at ? picked(of, at) : of);

/** The words behind many cells as one set. @param of the ids of their words, or with `at` those at these places */
export const wordsOf = ({ origins }: RowBook, of: ArrayLike<number>, at?: ArrayLike<number>): number =>
  origins.unionOfMany(at ? picked(of, at) : of);

function picked(of: ArrayLike<number>, at: ArrayLike<number>): Int32Array {
  const own = new Int32Array(at.length);
  for (let i = 0; i < at.length; i++) own[i] = of[at[i]];
  return own;
}

/** A number for each row, counted up as they come: rows with the same texts in all columns have the same. */
export function groupsOf(columns: readonly { readonly cells: readonly Cell[] }[], count: number): Int32Array {
  const groups = new Int32Array(count);
  columns.forEach(({ cells }, c) => {
    const texts = new Map<string, number>();
    const pairs = new PairTable();
    let before: Cell | undefined;
    let number: number | undefined;
    for (let row = 0; row < count; row++) {
      // Rows below each other often say the same.
      if (cells[row] !== before || number === undefined) {
        before = cells[row];
        const text = cellText(before);
        number = texts.get(text);
        if (number === undefined) texts.set(text, (number = texts.size));
      }
      groups[row] = c === 0 ? number : pairs.id(groups[row], number);
    }
  });
  return groups;
}

/** Rows by group, the groups in the order in which they come first. */
export interface Grouped {
  /** The group of each row. */
  readonly of: Int32Array;
  /** The places of the rows of each group. */
  readonly places: readonly Int32Array[];
}

export function grouped(columns: readonly { readonly cells: readonly Cell[] }[], count: number): Grouped {
  const of = groupsOf(columns, count);
  const sizes: number[] = [];
  for (let row = 0; row < count; row++) sizes[of[row]] = (sizes[of[row]] ?? 0) + 1;
  const places = sizes.map((size) => new Int32Array(size));
  const filled = new Int32Array(sizes.length);
  for (let row = 0; row < count; row++) {
    const group = of[row];
    places[group][filled[group]++] = row;
  }
  return { of, places };
}
