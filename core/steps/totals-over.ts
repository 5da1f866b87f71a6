import { carryOverWords, closingWords, openingWords } from '../values/carry-over';
import { isBlank, isError } from '../values/cell';
import { rowsAt, type Sheet } from '../sheet/sheet';
import { sameIndent } from './indents';
import { fractionDigits, scaled, unscaled } from '../values/exact';
import { formatOf, readerOf } from '../values/format';
import type { Locale } from '../values/locale';

/** A total row: the rows above that it stands for, its level (1: of single rows, 2: of such totals ...), and how its amounts compare with theirs. */
export interface TotalRow {
  readonly from: readonly number[];
  readonly level: number;
  /** Columns in which both the total and the rows have amounts. */
  readonly compared: number;
  readonly differs: readonly Difference[];
}

/** A column whose printed total is not the sum of the rows. */
export interface Difference {
  /** The number of the column in the sheet. */
  readonly column: number;
  readonly printed: number;
  readonly computed: number;
}

/** Fewest rows that a sum is believed of, and fewest digits of a sum that stands alone in its row: small numbers add up by chance. */
const fewestRows = 2;
const fewestRowsAlone = 3;
const fewestDigitsAlone = 3;

/**
 * Tells which rows are totals, and of what. Rows are gone through from the top; a total of level k stands for the rows since
 * the total before of level k or higher. Its level is the lowest whose rows add up to its amounts, else the one above that of
 * a total directly over it, else 1. Amounts are compared as whole numbers of their smallest unit. What a page carries over to the
 * next stands for all rows since some total before, or since the carry-over before, and ends none of their sums. A balance that is
 * stated is that of the row above, where the rows have one; one to begin with is of no row, nor is one carried over at the head of a
 * table that is of nothing above, nor one at the end to which the rows between add what they moved.
 * Of a report whose first row is a total more of them may add up the rows under them: then they stand for these.
 * @param isTotal whether a row is known as a total
 * @param mayBe whether a row counts as a total too when it adds up
 */
export function totalsOver(
  sheet: Sheet,
  locale: Locale,
  isTotal: (row: number) => boolean,
  mayBe: (row: number) => boolean,
): (TotalRow | undefined)[] {
  const below = totalsUnder(sheet, locale, isTotal, mayBe);
  // Nothing stands above the first: where that is so because totals are printed above their rows, they are found from the end.
  const { rows } = sheet;
  const first = (row: number) => row === 0 || !rows.inSameReport(row, row - 1);
  if (
    !below.some(
      (total, row) =>
        total &&
        first(row) &&
        total.from.length === 0 &&
        ![openingWords, carryOverWords].some((words) => says(sheet, row, words)),
    )
  )
    return below;
  const turned = (row: number) => rows.length - 1 - row;
  const above = totalsUnder(
    rowsAt(sheet, rows.map(turned)),
    locale,
    (row) => isTotal(turned(row)),
    (row) => mayBe(turned(row)),
  )
    .map((total) => total && { ...total, from: total.from.map(turned).reverse() })
    .reverse();
  const agreeing = (totals: readonly (TotalRow | undefined)[]) =>
    totals.filter((total) => total && total.compared > 0 && total.differs.length === 0).length;
  const starts = rows.map((row) => row).filter(first);
  return starts.flatMap((start, i) => {
    const [own, other] = [below, above].map((totals) => totals.slice(start, starts[i + 1]));
    return agreeing(other) > agreeing(own) ? other : own;
  });
}

/**
 * Totals that stand over the rows which they add up, these further in: each is of the rows below, down to the first that stands no
 * further in than it does.
 * @returns for each row what it stands for; undefined for a row that is no such total
 */
export function totalsOverIndented(
  sheet: Sheet,
  locale: Locale,
  isTotal: (row: number) => boolean,
): (TotalRow | undefined)[] {
  const { rows } = sheet;
  const { amounts, digits } = amountsOf(sheet, locale);
  const nothing: RunningSums = { rows: 0, sums: amounts.map(() => 0n), counts: amounts.map(() => 0) };
  interface Head {
    readonly row: number;
    readonly from: number[];
    level: number;
  }
  const heads = new Map<number, Head>();
  /** From the outermost inwards. */
  const open: Head[] = [];
  for (let row = 0; row < rows.length; row++) {
    for (
      let last = open.at(-1);
      last && !(rows.inSameReport(last.row, row) && rows.indent(row) - rows.indent(last.row) > sameIndent);
      last = open.at(-1)
    )
      open.pop();
    if (!isTotal(row)) {
      for (const { from } of open) from.push(row);
      continue;
    }
    const head: Head = { row, from: [], level: 1 };
    open.forEach((outer, i) => (outer.level = Math.max(outer.level, open.length - i + 1)));
    open.push(head);
    heads.set(row, head);
  }
  return rows.map((row) => {
    const head = heads.get(row);
    return (
      head && {
        level: head.level,
        from: head.from,
        ...comparison(
          amounts,
          digits,
          row,
          nothing,
          head.from.reduce((sums, each) => withRow(sums, amounts, each), nothing),
        ),
      }
    );
  });
}

/** The same, of totals that stand under their rows. */
function totalsUnder(
  sheet: Sheet,
  locale: Locale,
  isTotal: (row: number) => boolean,
  mayBe: (row: number) => boolean,
): (TotalRow | undefined)[] {
  const { amounts, digits } = amountsOf(sheet, locale);
  const nothing: RunningSums = { rows: 0, sums: amounts.map(() => 0n), counts: amounts.map(() => 0) };
  const totals: (TotalRow | undefined)[] = [];
  let body: number[] = [];
  let running = nothing;
  /** The sums above the last row. */
  let beforeLast = nothing;
  /** Where the balance stands with which the rows began, and the sums there. */
  let opened: { readonly row: number; readonly at: RunningSums } | undefined;
  // The sums up to where the rows begin that a total of each level would cover.
  let starts = [nothing];
  let directlyAbove = 0;
  /** The sums where a page was carried over last. */
  let lastCarried = nothing;
  for (let row = 0; row < sheet.rows.length; row++) {
    if (row > 0 && !sheet.rows.inSameReport(row, row - 1)) {
      body = [];
      running = beforeLast = nothing;
      opened = undefined;
      starts = [nothing];
      directlyAbove = 0;
      lastCarried = nothing;
    }
    const known = isTotal(row);
    if (known && says(sheet, row, openingWords)) {
      opened = { row, at: running };
      totals.push({ level: 1, from: [], compared: 0, differs: [] });
      continue;
    }
    const closes = says(sheet, row, closingWords);
    if (known && running.rows > 0 && (closes || says(sheet, row, carryOverWords))) {
      const summed = [...starts.toReversed(), lastCarried].find(
        (each) => each.rows < running.rows && addsUp(amounts, row, each, running, true),
      );
      const restated = !summed && addsUp(amounts, row, beforeLast, running, true);
      // What heads a table and is of nothing above it is what another account begins with.
      if (!summed && !restated && !closes && !sheet.rows.inSameTable(row, row - 1)) {
        opened = { row, at: running };
        totals.push({ level: 1, from: [], compared: 0, differs: [] });
        continue;
      }
      // Against the row above it a closing balance is off only where it is known that the rows do not move it there.
      const moved = closes && !summed && !restated && (!opened || movedBy(amounts, row, opened, running));
      const start = summed ?? (moved ? running : restated || closes ? beforeLast : nothing);
      totals.push({ level: 1, from: body.slice(start.rows), ...comparison(amounts, digits, row, start, running) });
      lastCarried = running;
      continue;
    }
    const levels = starts.map((start, i) => ({ level: i + 1, start })).filter(({ start }) => start.rows < running.rows);
    const tied =
      known || mayBe(row) ? levels.find(({ start }) => addsUp(amounts, row, start, running, known)) : undefined;
    if (!known && !tied) {
      totals.push(undefined);
      body.push(row);
      beforeLast = running;
      running = withRow(running, amounts, row);
      directlyAbove = 0;
      continue;
    }
    const { level, start } = tied ??
      levels.find((each) => each.level > directlyAbove) ?? { level: directlyAbove + 1, start: running };
    totals.push({ level, from: body.slice(start.rows), ...comparison(amounts, digits, row, start, running) });
    while (starts.length <= level) starts.push(nothing);
    for (let i = 0; i < level; i++) starts[i] = running;
    directlyAbove = level;
  }
  return totals;
}

/** Do the rows since a balance move it to this one, in every column that both have? */
function movedBy(
  amounts: Amounts,
  row: number,
  opened: { readonly row: number; readonly at: RunningSums },
  end: RunningSums,
): boolean {
  const both = amounts.flatMap((column, i) =>
    column[row] !== undefined && column[opened.row] !== undefined
      ? [column[row] - column[opened.row]! === end.sums[i] - opened.at.sums[i]]
      : [],
  );
  return both.length > 0 && both.every(Boolean);
}

const says = ({ columns }: Sheet, row: number, words: RegExp): boolean =>
  columns.some(({ cells }) => typeof cells[row] === 'string' && words.test(cells[row].trim()));

type Amounts = readonly (readonly (bigint | undefined)[])[];

/** Sum and count of the amounts of each column over so many rows. */
interface RunningSums {
  readonly rows: number;
  readonly sums: readonly bigint[];
  readonly counts: readonly number[];
}

const withRow = ({ rows, sums, counts }: RunningSums, amounts: Amounts, row: number): RunningSums => ({
  rows: rows + 1,
  sums: sums.map((sum, column) => sum + (amounts[column][row] ?? 0n)),
  counts: counts.map((count, column) => count + (amounts[column][row] === undefined ? 0 : 1)),
});

/** The amounts of each column as whole numbers of its smallest unit, undefined for what is no number; and the digits of that unit. */
function amountsOf(sheet: Sheet, locale: Locale): { amounts: Amounts; digits: readonly number[] } {
  const read = readerOf(formatOf({ type: 'decimal' }), locale);
  const columns = sheet.columns.map(({ cells }) => {
    const numbers = cells.map((cell): number | undefined => {
      if (isBlank(cell) || isError(cell)) return undefined;
      if (typeof cell === 'number') return cell;
      const parsed = typeof cell === 'string' ? read(cell) : undefined;
      return parsed && 'value' in parsed && typeof parsed.value === 'number' ? parsed.value : undefined;
    });
    const digits = numbers.reduce<number>(
      (most, number) => (number === undefined ? most : Math.max(most, fractionDigits(number))),
      0,
    );
    return { digits, amounts: numbers.map((number) => (number === undefined ? undefined : scaled(number, digits))) };
  });
  return { amounts: columns.map((column) => column.amounts), digits: columns.map((column) => column.digits) };
}

/** Compares a total with the rows that it stands for, in every column in which both have amounts. */
function comparison(
  amounts: Amounts,
  digits: readonly number[],
  row: number,
  start: RunningSums,
  end: RunningSums,
): Pick<TotalRow, 'compared' | 'differs'> {
  const compared = amounts.flatMap((column, i) =>
    column[row] !== undefined && end.counts[i] > start.counts[i] ? [i] : [],
  );
  const sum = (column: number) => end.sums[column] - start.sums[column];
  const differing = compared.filter((column) => amounts[column][row] !== sum(column));
  return {
    compared: compared.length,
    differs: differing.map((column) => ({
      column,
      printed: unscaled(amounts[column][row]!, digits[column]),
      computed: unscaled(sum(column), digits[column]),
    })),
  };
}

/** Tells what a total stands for: most number columns of a row add up; averages, prices and numbers of order do not. A row not known as a total must add up beyond chance. */
function addsUp(amounts: Amounts, row: number, start: RunningSums, end: RunningSums, known: boolean): boolean {
  const filled = amounts.flatMap((column, i) =>
    column[row] !== undefined && end.counts[i] > start.counts[i]
      ? [{ amount: column[row], sum: end.sums[i] - start.sums[i] }]
      : [],
  );
  const agreeing = filled.filter(({ amount, sum }) => amount === sum);
  const telling = agreeing.filter(({ amount }) => amount !== 0n);
  if (telling.length === 0 || agreeing.length * 2 < filled.length) return false;
  if (known) return true;
  const rows = end.rows - start.rows;
  if (telling.length > 1) return rows >= fewestRows;
  return filled.length === 1 && rows >= fewestRowsAlone && String(telling[0].amount).length >= fewestDigitsAlone;
}
