import type { Reading } from './found-table';
import { plainRows } from './found-table';

/** A row of each of two readings side by side; a row that one of them lacks is undefined there. */
export interface RowPair {
  readonly left: readonly string[] | undefined;
  readonly right: readonly string[] | undefined;
  /** Columns in which the two differ. */
  readonly differs: readonly number[];
}

const inked = (cells: readonly string[]) => cells.join('').replace(/\s/g, '');

/**
 * Sets the rows of two readings side by side: rows of the same ink stand beside each other (longest common subsequence),
 * the rows between are paired in their order.
 */
export function compareReadings(left: Reading, right: Reading): RowPair[] {
  const [a, b] = [plainRows(left), plainRows(right)];
  const [inkA, inkB] = [a.map(inked), b.map(inked)];
  // common[i][j]: how many rows from i and j on can stand beside a row of the same ink.
  const common = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      common[i][j] = inkA[i] === inkB[j] ? common[i + 1][j + 1] + 1 : Math.max(common[i + 1][j], common[i][j + 1]);
  const pairs: RowPair[] = [];
  let open: { left: string[][]; right: string[][] } = { left: [], right: [] };
  const flush = () => {
    for (let n = 0; n < Math.max(open.left.length, open.right.length); n++)
      pairs.push(pair(open.left[n], open.right[n]));
    open = { left: [], right: [] };
  };
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    if (i < a.length && j < b.length && inkA[i] === inkB[j]) {
      flush();
      pairs.push(pair(a[i++], b[j++]));
    } else if (j >= b.length || (i < a.length && common[i + 1][j] >= common[i][j + 1])) open.left.push(a[i++]);
    else open.right.push(b[j++]);
  }
  flush();
  return pairs;
}

function pair(left: string[] | undefined, right: string[] | undefined): RowPair {
  const width = Math.max(left?.length ?? 0, right?.length ?? 0);
  return {
    left,
    right,
    differs: Array.from({ length: width }, (_, c) => c).filter((c) => (left?.[c] ?? '') !== (right?.[c] ?? '')),
  };
}

/** How many cells differ. */
export const differences = (pairs: readonly RowPair[]): number =>
  pairs.reduce((sum, { differs }) => sum + differs.length, 0);
