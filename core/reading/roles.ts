import { isBold } from '../page/lines';
import type { PageContent } from '../page/page';
import type { RowRole } from '../sheet/row';
import { carryOverWords, closingWords, openingWords } from '../values/carry-over';
import type { GridCell } from './found-table';
import { looksNumeric } from '../values/numeric';

/** What the label of a total begins with, in several languages. */
export const totalWords =
  /^(?:grand\s+)?(?:total|sum|totals|gesamt|summe|insgesamt|totale|totaal|summa|razem|合計|合计|итого|σύνολο)(?![a-zà-ž])|\btotal$/i;
const subtotalWords = /^(?:sub-?\s?total|zwischensumme|sous-total)/i;
const mostHeadingRows = 4;

/**
 * Guesses what each row is from its own cells and their columns: heading rows stand above the first row that has an
 * amount in a column of amounts; a section has one filled cell among wider rows; totals are known by wording.
 */
export function rolesOf(
  page: PageContent,
  cells: readonly GridCell[],
  rowCount: number,
  columnCount: number,
): { roles: RowRole[]; headingRows: number } {
  const rows: GridCell[][] = Array.from({ length: rowCount }, () => []);
  for (const cell of cells) rows[cell.row].push(cell);
  const numericColumns = columnsOfAmounts(cells, columnCount);
  const isBoldRow = (row: readonly GridCell[]) => row.every((cell) => isBold(page.words, cell.words));
  const labels = labelsLikeNumbers(cells, columnCount);
  const hasAmount = (row: readonly GridCell[]) =>
    row.some((cell) => numericColumns.has(cell.column) && looksNumeric(cell.text) && !labels.has(cell));
  const statesBalance = balancesBeside(rows, numericColumns);
  const headingRows = countHeadingRows(rows, numericColumns, hasAmount, isBoldRow, page);
  const roles = rows.map((row, i): RowRole => {
    if (i < headingRows) return 'heading';
    const first = row[0]?.text ?? '';
    const label = row.find((cell) => !looksNumeric(cell.text))?.text ?? '';
    if (subtotalWords.test(label) || statesBalance(row)) return 'subtotal';
    const total = hasAmount(row) ? totalRole(label, i === rowCount - 1) : undefined;
    if (total) return total;
    if (row.length === 1 && columnCount > 2 && row[0].column === 0 && !looksNumeric(first)) {
      if (/^[¹²³⁴⁵⁶⁷⁸⁹*†‡]/.test(first)) return 'note';
      return i === rowCount - 1 ? 'note' : 'section';
    }
    return 'body';
  });
  const lastTotal = roles.lastIndexOf('subtotal');
  if (lastTotal >= 0 && !roles.includes('total') && roles.slice(lastTotal + 1).every((role) => role === 'note'))
    roles[lastTotal] = 'total';
  return { roles, headingRows };
}

/** What the label of a row with amounts makes it, where it heads a total or what a page carries over. */
export function totalRole(label: string, isLast: boolean): RowRole | undefined {
  if (carryOverWords.test(label)) return 'subtotal';
  return totalWords.test(label) ? (isLast ? 'total' : 'subtotal') : undefined;
}

/**
 * Does a row say only what the balance is, before or after the movements? One that is as full as the others is a line of a table of
 * balances.
 */
function balancesBeside(
  rows: readonly (readonly GridCell[])[],
  amounts: ReadonlySet<number>,
): (row: readonly GridCell[]) => boolean {
  const says = (row: readonly GridCell[]) => row.some(({ text }) => openingWords.test(text) || closingWords.test(text));
  const others = rows.filter((row) => row.length > 1 && !says(row));
  const usual = others.map((row) => row.length).sort((a, b) => a - b)[Math.floor(others.length / 2)] ?? 0;
  const always = [...amounts].filter(
    (column) => others.filter((row) => row.some((cell) => cell.column === column)).length >= 0.9 * others.length,
  );
  return (row) =>
    says(row) &&
    row.some((cell) => amounts.has(cell.column) && looksNumeric(cell.text)) &&
    (row.length < 0.7 * usual || always.some((column) => row.every((cell) => cell.column !== column)));
}

/** Years, numbers in brackets, times and days that head columns of other numbers. */
const labelLikeNumber =
  /^(?:(?:19|20)\d\d(?:[/–-]\d\d(?:\d\d)?)?|\(\d{1,2}\)|\d{1,2}:\d{2}|\d{1,2}\/\d{1,2}(?:\/\d{2,4})?)$/;

function labelsLikeNumbers(cells: readonly GridCell[], columnCount: number): Set<GridCell> {
  const own = Array.from({ length: columnCount }, (_, column) => cells.filter((cell) => cell.column === column));
  const labels = own.flatMap((column) => {
    const like = column.filter((cell) => labelLikeNumber.test(cell.text));
    return like.length <= 0.34 * column.length ? like : [];
  });
  return new Set([...labels, ...countedAcross(cells), ...unitsAcross(cells)]);
}

/** Texts in brackets alone beside a blank first column, one of them no number: what the columns are given in, though "(£ 1,000)" looks like an amount. */
function unitsAcross(cells: readonly GridCell[]): GridCell[] {
  for (let row = 1; row < mostHeadingRows; row++) {
    const own = cells.filter((cell) => cell.row === row);
    if (
      own.length > 1 &&
      own.every(({ column, text }) => column > 0 && /^[([].{1,14}[)\]]$/.test(text)) &&
      own.some(({ text }) => !looksNumeric(text))
    )
      return own;
  }
  return [];
}

/** So many numbers that count up are days of a month, hours or classes. */
const fewestCounted = 4;

/** Whole numbers that count up by one across the uppermost row of their columns: they head these. */
function countedAcross(cells: readonly GridCell[]): GridCell[] {
  for (let row = 0; row < mostHeadingRows; row++) {
    const numbers = cells
      .filter((cell) => cell.row === row && /^\d{1,2}\.?$/.test(cell.text))
      .sort((a, b) => a.column - b.column);
    const countsUp =
      numbers.length >= fewestCounted &&
      numbers.every(
        (cell, i) =>
          i === 0 ||
          (Number.parseInt(cell.text, 10) === Number.parseInt(numbers[i - 1].text, 10) + 1 &&
            cell.column === numbers[i - 1].column + 1),
      );
    if (!countsUp) continue;
    // Texts above single columns of them would be the headings, and these the first row of data.
    const columns = new Set(numbers.map(({ column }) => column));
    return cells.some((cell) => cell.row < row && cell.columnSpan === 1 && columns.has(cell.column)) ? [] : numbers;
  }
  return [];
}

/** Columns in which at least half of the cells are amounts, and two of them. */
export function columnsOfAmounts(cells: readonly GridCell[], columnCount: number): Set<number> {
  const amounts = new Array<number>(columnCount).fill(0);
  const filled = new Array<number>(columnCount).fill(0);
  for (const cell of cells) {
    filled[cell.column]++;
    if (looksNumeric(cell.text)) amounts[cell.column]++;
  }
  return new Set(amounts.flatMap((n, column) => (n >= 2 && n >= 0.5 * filled[column] ? [column] : [])));
}

function countHeadingRows(
  rows: readonly (readonly GridCell[])[],
  numericColumns: ReadonlySet<number>,
  hasAmount: (row: readonly GridCell[]) => boolean,
  isBoldRow: (row: readonly GridCell[]) => boolean,
  page: PageContent,
): number {
  const firstBody = rows.findIndex(hasAmount);
  const boldTop = rows.findIndex((row) => row.length > 0 && !isBoldRow(row));
  const bodyIsPlain = rows.slice(Math.max(boldTop, 0)).some((row) => !isBoldRow(row));
  const byAmounts = numericColumns.size > 0 && firstBody >= 0;
  if (!byAmounts && !(boldTop > 0 && bodyIsPlain)) return rows.length > 1 ? 1 : 0;
  const body = byAmounts ? firstBody : boldTop;
  let count = body;
  // A section label just above the first amounts belongs to the body: one cell, at the left, in a table of several columns.
  while (
    count > 1 &&
    rows[count - 1].length === 1 &&
    rows[count - 1][0].column === 0 &&
    numericColumns.size + 1 > 2 &&
    rows[count - 1][0].columnSpan !== 1
  )
    count--;
  // So do several under one another, as those of a part and of a part of it.
  while (count > 1 && isLabel(rows[count - 1])) {
    const above = rows.slice(0, count - 1).findLast((row) => !isLabel(row));
    if (above === undefined || above.length < 2) break;
    const upper = rows[count - 2];
    const ruleAbove = page.rules.some(
      (rule) =>
        rule.direction === 'across' && rule.at <= rows[count - 1][0].box[1] + 1 && rule.at >= upper[0].box[3] - 3,
    );
    // Years alone leave the first column without a name, which may stand below them.
    if (!ruleAbove && (numericOnly(above) || !looksLikeSection(rows, body))) break;
    count--;
  }
  if (boldTop > 0 && boldTop < count && bodyIsPlain) count = boldTop;
  return Math.min(count, mostHeadingRows);
}

const numericOnly = (row: readonly GridCell[]) => row.every((cell) => looksNumeric(cell.text));

/** One cell, at the left. */
const isLabel = (row: readonly GridCell[]) => row.length === 1 && row[0].column === 0;

/** Other rows of the same make further down speak for a section label. */
const looksLikeSection = (rows: readonly (readonly GridCell[])[], body: number) =>
  rows.some((row, i) => i > body && isLabel(row));
