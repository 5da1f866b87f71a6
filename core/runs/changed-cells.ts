/** A row of the dataset as two builds made it: its cells as text, error cells as their text with a mark before it. */
export interface ComparedRow {
  readonly report: number;
  readonly page: number;
  readonly cells: readonly (string | null)[];
}

/** What is another in the rows after: a cell, or a whole row. `row` is the place among the rows after, null for one that went. */
export type RowChange =
  | {
      readonly kind: 'cell';
      readonly row: number;
      readonly report: number;
      readonly page: number;
      readonly heading: string;
      readonly before: string | null;
      readonly after: string | null;
    }
  | {
      readonly kind: 'row added';
      readonly row: number;
      readonly report: number;
      readonly page: number;
      readonly after: string;
    }
  | {
      readonly kind: 'row removed';
      readonly row: null;
      readonly report: number;
      readonly page: number;
      readonly before: string;
    };

/** Rows between two that are the same are laid side by side by likeness up to so many; beyond in their order. */
const mostByLikeness = 200;

const contentOf = ({ cells }: ComparedRow) => JSON.stringify(cells);
const told = ({ cells }: ComparedRow) => cells.map((cell) => cell ?? '').join(' | ');

/**
 * What is different between rows before and after, both in the order of the dataset and with the same headings. Rows that are the
 * same and come once on each side are taken for each other (the anchors of a patience diff, by Bram Cohen); those between two
 * anchors are laid side by side so that most cells agree.
 */
export function changedCells(
  headings: readonly string[],
  before: readonly ComparedRow[],
  after: readonly ComparedRow[],
): RowChange[] {
  const changes: RowChange[] = [];
  let [i, j] = [0, 0];
  for (const [a, b] of [...anchors(before, after), [before.length, after.length] as const]) {
    for (const [x, y] of sideBySide(before.slice(i, a), after.slice(j, b))) {
      const [was, is] = [x === undefined ? undefined : before[i + x], y === undefined ? undefined : after[j + y]];
      const row = j + (y ?? 0);
      if (was && is) {
        const { report, page } = is;
        for (const [at, heading] of headings.entries()) {
          const [old, now] = [was.cells[at] ?? null, is.cells[at] ?? null];
          if (old !== now) changes.push({ kind: 'cell', row, report, page, heading, before: old, after: now });
        }
      } else if (is) changes.push({ kind: 'row added', row, report: is.report, page: is.page, after: told(is) });
      else if (was)
        changes.push({ kind: 'row removed', row: null, report: was.report, page: was.page, before: told(was) });
    }
    [i, j] = [a + 1, b + 1];
  }
  return changes;
}

/** Places of rows that are the same on both sides, in the order of both: equal beginnings and ends, and unique rows between. */
function anchors(before: readonly ComparedRow[], after: readonly ComparedRow[]): [number, number][] {
  const [was, is] = [before.map(contentOf), after.map(contentOf)];
  const least = Math.min(was.length, is.length);
  let start = 0;
  while (start < least && was[start] === is[start]) start++;
  let end = 0;
  while (end < least - start && was[was.length - 1 - end] === is[is.length - 1 - end]) end++;
  const head = Array.from({ length: start }, (_, k): [number, number] => [k, k]);
  const tail = Array.from({ length: end }, (_, k): [number, number] => [was.length - end + k, is.length - end + k]);
  const [uniqueBefore, uniqueAfter] = [onceOnly(was, start, was.length - end), onceOnly(is, start, is.length - end)];
  const shared = [...uniqueBefore].flatMap(([content, at]) => {
    const there = uniqueAfter.get(content);
    return there === undefined ? [] : [[at, there] as [number, number]];
  });
  return [...head, ...rising(shared), ...tail];
}

function onceOnly(contents: readonly string[], from: number, to: number): Map<string, number> {
  const places = new Map<string, number>();
  for (let at = from; at < to; at++) places.set(contents[at], places.has(contents[at]) ? -1 : at);
  return new Map([...places].filter(([, at]) => at >= 0));
}

/** The longest run of pairs, given in the order of their first, in which the second rises too (patience sorting). */
function rising(pairs: readonly [number, number][]): [number, number][] {
  interface Card {
    readonly pair: [number, number];
    readonly below: Card | undefined;
  }
  const piles: Card[] = [];
  for (const pair of pairs) {
    let [low, high] = [0, piles.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (piles[middle].pair[1] < pair[1]) low = middle + 1;
      else high = middle;
    }
    piles[low] = { pair, below: piles[low - 1] };
  }
  const run: [number, number][] = [];
  for (let card = piles.at(-1); card; card = card.below) run.unshift(card.pair);
  return run;
}

/** Pairs of places in two runs of rows, one of them undefined where a row has no partner. */
function sideBySide(
  before: readonly ComparedRow[],
  after: readonly ComparedRow[],
): [number | undefined, number | undefined][] {
  if (before.length === after.length) return before.map((_, k) => [k, k]);
  if (Math.max(before.length, after.length) > mostByLikeness) {
    const most = Math.max(before.length, after.length);
    return Array.from({ length: most }, (_, k) => [
      k < before.length ? k : undefined,
      k < after.length ? k : undefined,
    ]);
  }
  return byLikeness(before, after);
}

/** The alignment in which most cells agree (Needleman and Wunsch, without a cost for gaps). */
function byLikeness(
  before: readonly ComparedRow[],
  after: readonly ComparedRow[],
): [number | undefined, number | undefined][] {
  const same = (a: ComparedRow, b: ComparedRow) =>
    a.cells.reduce((sum, cell, at) => sum + (cell === b.cells[at] ? 1 : 0), 0);
  const best = Array.from({ length: before.length + 1 }, () => new Float64Array(after.length + 1));
  for (let i = before.length - 1; i >= 0; i--)
    for (let j = after.length - 1; j >= 0; j--)
      best[i][j] = Math.max(same(before[i], after[j]) + best[i + 1][j + 1], best[i + 1][j], best[i][j + 1]);
  const pairs: [number | undefined, number | undefined][] = [];
  let [i, j] = [0, 0];
  while (i < before.length && j < after.length) {
    if (best[i][j] === same(before[i], after[j]) + best[i + 1][j + 1]) pairs.push([i++, j++]);
    else if (best[i][j] === best[i + 1][j]) pairs.push([i++, undefined]);
    else pairs.push([undefined, j++]);
  }
  while (i < before.length) pairs.push([i++, undefined]);
  while (j < after.length) pairs.push([undefined, j++]);
  return pairs;
}
