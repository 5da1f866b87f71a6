import { columnNamed, type Column } from '../sheet/column';
import type { Problem } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import { decimalsOf, plainNumber } from '../values/plain-number';
import { checkSentence, type Check } from './check';

/** A row that fails a check, and what is there. */
interface Failure {
  /** Place of the row; none: it is about the sheet. */
  readonly row?: number;
  readonly column?: string;
  readonly came: string;
}

/** Rows that fail one check that are told one by one. */
const mostTold = 3;

/** What fails of the checks on the rows of a report, as problems; each names its check. @param report key of the report */
export function runChecks(checks: readonly Check[], sheet: Sheet, report: string): Problem[] {
  return checks.flatMap((each) => {
    const failures = failuresOf(each, sheet);
    const told = failures.slice(0, mostTold);
    return told.map(({ row, column, came }, n): Problem => ({
      kind: 'check',
      report,
      check: each.id,
      ...(row === undefined ? {} : { page: sheet.rows.page(row), row: sheet.rows.id(row) }),
      ...(column === undefined ? {} : { column }),
      expected: `what is checked: ${checkSentence(each)}`,
      came,
      remedy: 'Look at the cell and its paper; where the paper is right, change the check.',
      ...(n === told.length - 1 && failures.length > told.length ? { more: failures.length - told.length } : {}),
    }));
  });
}

function failuresOf(of: Check, sheet: Sheet): Failure[] {
  const named = (name: string) => columnNamed(sheet, name);
  const columns = columnsIn(of);
  const gone = columns.find((name) => !named(name));
  if (gone !== undefined) return sheet.rows.length === 0 ? [] : [{ column: gone, came: 'no such column' }];
  const cellsOf = (name: string) => named(name)!.cells;
  switch (of.kind) {
    case 'rows': {
      const { length } = sheet.rows;
      return (of.least ?? 0) <= length && length <= (of.most ?? Infinity) ? [] : [{ came: `${length} ${length === 1 ? 'row' : 'rows'}` }];
    }
    case 'unique':
      // Over the whole dataset the database tells.
      return of.over === 'dataset' ? [] : doubled(of.columns.map((name) => named(name)!), sheet.rows.length);
    case 'filled':
      return of.columns.flatMap((column) => cellsOf(column).flatMap((cell, row) => (isBlank(cell) ? [{ row, column, came: 'a blank' }] : [])));
    case 'range':
      return cellsOf(of.column).flatMap((cell, row) => (isWithin(cell, of.least, of.most) ? [] : [{ row, column: of.column, came: shown(cell) }]));
    case 'allowed': {
      const values = new Set(of.values);
      return cellsOf(of.column).flatMap((cell, row) => (isBlank(cell) || values.has(cellText(cell)) ? [] : [{ row, column: of.column, came: `“${cellText(cell)}”` }]));
    }
    case 'sum':
      return unlike(of.columns.map(cellsOf), cellsOf(of.is), of.is, exactSum);
    case 'product':
      return unlike(of.columns.map(cellsOf), cellsOf(of.is), of.is, (factors) => factors[0] * factors[1]);
  }
}

export const columnsIn = (of: Check): readonly string[] => (of.kind === 'rows' ? [] : of.kind === 'range' || of.kind === 'allowed' ? [of.column] : of.kind === 'sum' || of.kind === 'product' ? [...of.columns, of.is] : of.columns);

const shown = (cell: Cell) => (typeof cell === 'number' ? plainNumber(cell) : `“${cellText(cell)}”`);

/** What rows say together in some columns: of kinds that differ, so that 1 and "1" are two. */
export const keyOf = (columns: readonly Column[], row: number): string | undefined => (columns.every(({ cells }) => isBlank(cells[row])) ? undefined : JSON.stringify(columns.map(({ cells }) => cells[row])));

function doubled(columns: readonly Column[], rows: number): Failure[] {
  const seen = new Map<string, number>();
  const failures: Failure[] = [];
  for (let row = 0; row < rows; row++) {
    const key = keyOf(columns, row);
    if (key === undefined) continue;
    if (seen.has(key)) failures.push({ row, column: columns[0].name, came: `${columns.map(({ cells }) => shown(cells[row])).join(' with ')} again` });
    else seen.set(key, row);
  }
  return failures;
}

/** Blank cells and misfits are told elsewhere. */
function isWithin(cell: Cell, least: number | string | undefined, most: number | string | undefined): boolean {
  if (isBlank(cell) || isError(cell) || typeof cell === 'boolean') return true;
  const value = typeof cell === 'number' || typeof (least ?? most) === 'string' ? cell : Number(cell);
  return (least === undefined || value! >= least) && (most === undefined || value! <= most);
}

/** Rows in which what is worked out of some columns is another than what stands there, beyond the rounding of what stands there. */
function unlike(parts: readonly (readonly Cell[])[], whole: readonly Cell[], column: string, work: (amounts: number[]) => number): Failure[] {
  const digits = decimalsOf(whole);
  return whole.flatMap((cell, row) => {
    const amounts = parts.map((cells) => cells[row]);
    if (typeof cell !== 'number' || !amounts.every((amount): amount is number => typeof amount === 'number')) return [];
    const worked = work(amounts);
    return isRounded(worked, cell, digits) ? [] : [{ row, column, came: `${plainNumber(cell)}, worked out it is ${plainNumber(Number(worked.toFixed(Math.min(15, digits + 2))))}` }];
  });
}

/** Is a printed number what was worked out, rounded to the digits of its column? */
export const isRounded = (worked: number, printed: number, digits: number): boolean => Math.abs(worked - printed) <= 0.5 * 10 ** -digits + 1e-12 * Math.abs(worked);
