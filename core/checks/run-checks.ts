import { columnsUsedIn } from '../formula/ast';
import { formulaOf, type FormulaRows } from '../formula/formula';
import { isFault, parseFormula } from '../formula/parse';
import { formulaRows, type FormulaPaper } from '../formula/sheet-rows';
import { columnNamed, type Column } from '../sheet/column';
import type { Problem } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import { decimalsOf, plainNumber } from '../values/plain-number';
import { statedNumbers, statedRows, type Lines } from './printed-count';
import { checkSentence, isOverDataset, type Check } from './check';

/** A row that fails a check, and what is there. */
interface Failure {
  /** Place of the row; none: it is about the sheet. */
  readonly row?: number;
  readonly column?: string;
  /** The page that it is about, where no row tells it. */
  readonly page?: number;
  readonly came: string;
  /** The text of the cell, where it may be allowed. */
  readonly text?: string;
}

/** Rows that fail one check that are told one by one. */
const mostTold = 3;

/** What fails of the checks on the rows of a report, as problems; each names its check. @param report key of the report */
export function runChecks(
  checks: readonly Check[],
  sheet: Sheet,
  report: string,
  paper: Lines & FormulaPaper,
): Problem[] {
  return checks
    .filter((each) => !isOverDataset(each))
    .flatMap((each) => {
      const failures = failuresIn(each, sheet, paper);
      // Of alike texts one is enough, so that each that came new can be told.
      const texts = new Set<string>();
      const told = failures
        .filter(({ text }) => text === undefined || (!texts.has(text) && texts.add(text)))
        .slice(0, mostTold);
      return told.map(({ row, column, page, came, text }, n): Problem => ({
        kind: 'check',
        report,
        check: each.id,
        ...(page === undefined ? {} : { page }),
        ...(row === undefined ? {} : { page: sheet.rows.page(row), row: sheet.rows.id(row) }),
        ...(column === undefined ? {} : { column }),
        ...(text === undefined ? {} : { text }),
        expected: `what is checked: ${checkSentence(each)}`,
        came,
        remedy: 'Look at the cell and its paper; where the paper is right, change the check.',
        ...(n === told.length - 1 && failures.length > told.length ? { more: failures.length - told.length } : {}),
      }));
    });
}

function failuresIn(of: Check, sheet: Sheet, paper: Lines & FormulaPaper): Failure[] {
  if (of.kind === 'printed count') return miscounted(of.line, paper, sheet.rows.length);
  return of.kind === 'formula' && columnGone(of, sheet.columns) === undefined
    ? untrue(
        of.formula,
        sheet.columns,
        formulaRows(sheet, () => paper),
      )
    : failuresOf(of, sheet.columns, sheet.rows.length);
}

/** A report whose lines state another number of rows, or none. */
function miscounted(line: string, paper: Lines, rows: number): Failure[] {
  const numbers = statedNumbers(paper);
  const stated = statedRows(numbers, line, rows);
  // One entry is worded otherwise than several.
  if (!stated && rows === 1 && numbers.some(({ says }) => says === 1)) return [];
  if (!stated) return rows === 0 ? [] : [{ came: `${counted(rows)}, and no such line` }];
  return stated.says === rows
    ? []
    : [
        {
          page: stated.page,
          came: `${counted(rows)}, where ${stated.says} ${stated.says === 1 ? 'is' : 'are'} stated`,
        },
      ];
}

const counted = (rows: number) => `${rows} ${rows === 1 ? 'row' : 'rows'}`;

/** What fails a check among rows given by their columns; what is over the dataset, or asks the paper, is not told here. @param rows how many there are */
export function failuresOf(of: Check, all: readonly Column[], rows: number): Failure[] {
  const named = (name: string) => columnNamed({ columns: all }, name);
  const gone = columnGone(of, all);
  if (gone !== undefined) return rows === 0 ? [] : [{ column: gone, came: 'no such column' }];
  const cellsOf = (name: string) => named(name)!.cells;
  switch (of.kind) {
    case 'agrees with':
    case 'printed count':
    case 'formula':
      return [];
    case 'rows':
      return (of.least ?? 0) <= rows && rows <= (of.most ?? Infinity) ? [] : [{ came: counted(rows) }];
    case 'unique':
      return doubled(
        of.columns.map((name) => named(name)!),
        rows,
      );
    case 'filled':
      return of.columns.flatMap((column) =>
        cellsOf(column).flatMap((cell, row) => (isBlank(cell) ? [{ row, column, came: 'a blank' }] : [])),
      );
    case 'range':
      return cellsOf(of.column).flatMap((cell, row) =>
        isWithin(cell, of.least, of.most) ? [] : [{ row, column: of.column, came: shown(cell) }],
      );
    case 'allowed': {
      const values = new Set(of.values);
      return cellsOf(of.column).flatMap((cell, row) =>
        isBlank(cell) || values.has(cellText(cell))
          ? []
          : [{ row, column: of.column, came: `“${cellText(cell)}”`, text: cellText(cell) }],
      );
    }
    case 'sum':
      return unlike(of.columns.map(cellsOf), cellsOf(of.is), of.is, exactSum);
    case 'balance':
      return runningBalance(of, cellsOf);
    case 'stated rows':
      return cellsOf(of.column)
        .flatMap((cell, row) =>
          (typeof cell === 'number' ? cell !== rows : cellText(cell) !== String(rows))
            ? [
                {
                  row,
                  column: of.column,
                  came: `${rows} rows, where ${isBlank(cell) ? 'nothing is stated' : `${cellText(cell)} are stated`}`,
                },
              ]
            : [],
        )
        .slice(0, 1);
    case 'stated sum':
      return sumStated(of, cellsOf);
    case 'adds up to':
      return addedUp(
        of,
        cellsOf(of.column),
        of.by.map((name) => named(name)!),
        rows,
      );
    case 'product':
      return unlike(of.columns.map(cellsOf), cellsOf(of.is), of.is, (factors) => factors[0] * factors[1]);
  }
}

const columnGone = (of: Check, all: readonly Column[]): string | undefined =>
  columnsIn(of).find((name) => !columnNamed({ columns: all }, name));

function columnsIn(of: Check): readonly string[] {
  switch (of.kind) {
    case 'rows':
    case 'printed count':
      return [];
    case 'agrees with':
      return [...of.keys, ...of.columns].map((each) => each.column);
    case 'range':
    case 'allowed':
    case 'stated rows':
      return [of.column];
    case 'formula':
      return usedBy(of.formula);
    case 'stated sum':
      return [of.column, of.is];
    case 'adds up to':
      return [of.column, ...of.by];
    case 'sum':
    case 'product':
      return [...of.columns, of.is];
    case 'balance':
      return [of.balance, ...of.plus, ...of.minus];
    default:
      return of.columns;
  }
}

/** Lines whose balance is another than that of the line before with what moved; blank movements are none, a line without a balance goes on. */
function runningBalance(
  { balance, plus, minus }: Extract<Check, { kind: 'balance' }>,
  cellsOf: (name: string) => readonly Cell[],
): Failure[] {
  const failures: Failure[] = [];
  const [coming, going] = [plus, minus].map((names) => names.map(cellsOf));
  const amount = (cells: readonly Cell[], row: number) => (typeof cells[row] === 'number' ? cells[row] : 0);
  let before: number | undefined;
  cellsOf(balance).forEach((cell, row) => {
    const moved = [...coming.map((cells) => amount(cells, row)), ...going.map((cells) => -amount(cells, row))];
    const worked = before === undefined ? undefined : exactSum([before, ...moved]);
    if (typeof cell !== 'number') {
      before = worked;
      return;
    }
    if (worked !== undefined && worked !== cell)
      failures.push({
        row,
        column: balance,
        came: `${plainNumber(cell)}, from the line before it is ${plainNumber(worked)}`,
      });
    before = cell;
  });
  return failures;
}

/** A report whose column adds up to another number than is stated; told at the first row that states it. */
function sumStated(
  { column, is }: Extract<Check, { kind: 'stated sum' }>,
  cellsOf: (name: string) => readonly Cell[],
): Failure[] {
  const amounts = cellsOf(column).filter((cell) => typeof cell === 'number');
  const sum = exactSum(amounts);
  const row = cellsOf(is).findIndex((cell) => cell !== sum);
  return row < 0 ? [] : [{ row, column: is, came: `${plainNumber(sum)}, where ${shown(cellsOf(is)[row])} is stated` }];
}

/** Groups of rows whose column adds up to another number, beyond the rounding of each row. */
function addedUp(
  { column, is }: Extract<Check, { kind: 'adds up to' }>,
  cells: readonly Cell[],
  by: readonly Column[],
  rows: number,
): Failure[] {
  const digits = decimalsOf(cells);
  const groups = new Map<string, number[]>();
  for (let row = 0; row < rows; row++) {
    const key = keyOf(by, row) ?? '';
    const own = groups.get(key);
    if (own) own.push(row);
    else groups.set(key, [row]);
  }
  return [...groups.values()].flatMap((own): Failure[] => {
    const amounts = own.flatMap((row) => (typeof cells[row] === 'number' ? [cells[row]] : []));
    const sum = exactSum(amounts);
    if (amounts.length === 0 || Math.abs(sum - is) <= 0.5 * 10 ** -digits * amounts.length + 1e-9) return [];
    return [
      {
        row: own[0],
        column,
        came: `${plainNumber(sum)}${by.length > 0 ? ` for ${by.map(({ cells: texts }) => shown(texts[own[0]])).join(', ')}` : ''}`,
      },
    ];
  });
}

const shown = (cell: Cell) =>
  typeof cell === 'number' ? plainNumber(cell) : isBlank(cell) ? 'blank' : `“${cellText(cell)}”`;

/** What rows say together in some columns: of kinds that differ, so that 1 and "1" are two. */
export const keyOf = (columns: readonly Column[], row: number): string | undefined =>
  columns.length === 1 && typeof columns[0].cells[row] === 'string' && columns[0].cells[row] !== ''
    ? `t${columns[0].cells[row]}`
    : columns.every(({ cells }) => isBlank(cells[row]))
      ? undefined
      : JSON.stringify(columns.map(({ cells }) => cells[row]));

function doubled(columns: readonly Column[], rows: number): Failure[] {
  const seen = new Map<string, number>();
  const failures: Failure[] = [];
  for (let row = 0; row < rows; row++) {
    const key = keyOf(columns, row);
    if (key === undefined) continue;
    if (seen.has(key))
      failures.push({
        row,
        column: columns[0].name,
        came: `${columns.map(({ cells }) => shown(cells[row])).join(' with ')} again`,
      });
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
function unlike(
  parts: readonly (readonly Cell[])[],
  whole: readonly Cell[],
  column: string,
  work: (amounts: number[]) => number,
): Failure[] {
  const digits = decimalsOf(whole);
  return whole.flatMap((cell, row) => {
    const amounts = parts.map((cells) => cells[row]);
    if (typeof cell !== 'number' || !amounts.every((amount): amount is number => typeof amount === 'number')) return [];
    const worked = work(amounts);
    return isRounded(worked, cell, digits)
      ? []
      : [
          {
            row,
            column,
            came: `${plainNumber(cell)}, worked out it is ${plainNumber(Number(worked.toFixed(Math.min(15, digits + 2))))}`,
          },
        ];
  });
}

/** Is a printed number what was worked out, rounded to the digits of its column? */
export const isRounded = (worked: number, printed: number, digits: number): boolean =>
  Math.abs(worked - printed) <= 0.5 * 10 ** -digits + 1e-12 * Math.abs(worked);

const usedBy = (text: string): string[] => {
  const expression = parseFormula(text);
  return isFault(expression) ? [] : columnsUsedIn(expression);
};

/** Rows in which a formula is false, or has no value. Blank is no fault, as in the checks of databases. */
function untrue(text: string, all: readonly Column[], rows: FormulaRows): Failure[] {
  if (rows.length === 0) return [];
  const formula = formulaOf(text, all);
  if (isFault(formula)) return [{ came: `a formula that cannot be worked out: ${formula.says}` }];
  if (formula.type !== 'boolean') return [{ came: 'a formula that is neither true nor false' }];
  const result = formula.over(rows);
  const used = formula.uses.flatMap((name) => columnNamed({ columns: all }, name) ?? []);
  const failures: Failure[] = [];
  for (let row = 0; row < rows.length; row++) {
    const cell = result(row);
    if (cell === true || cell === null) continue;
    failures.push({
      row,
      ...(used[0] ? { column: used[0].name } : {}),
      came: isError(cell)
        ? cell.text
        : used.map(({ name, cells }) => `${name} ${shown(cells[row])}`).join(', ') || 'false',
    });
  }
  return failures;
}
