import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell, type ErrorCell } from '../values/cell';
import type { Problem } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import { columnNamed, missingColumn } from '../sheet/column';
import { formulaRows } from '../formula/sheet-rows';
import { formulaFor, isByRow, isFormula, needsOf } from './formula-rows';
import { wildcard } from './wildcard';
import { isPattern, regularExpression } from './pattern';
import { remembered } from './remembered';
import type { Need, Papers } from './step';

export const textTests = [
  'is',
  'is not',
  'contains',
  'starts with',
  'ends with',
  'is like',
  'has the pattern',
] as const;
export const listTests = ['is one of', 'is none of'] as const;
export const orderTests = ['is at least', 'is at most', 'is above', 'is below'] as const;
export const stateTests = ['is blank', 'is filled', 'is a misfit'] as const;
export const marks = ['role', 'bold', 'shaded', 'page', 'indent', 'table', 'space above', 'rule above'] as const;
/** What each mark is called in the rows. */
const rowMarks = {
  role: 'role',
  bold: 'bold',
  shaded: 'shaded',
  page: 'page',
  indent: 'indent',
  table: 'table',
  'space above': 'spaced',
  'rule above': 'ruled',
} as const;

/** One test on a cell or on a mark of the row. */
export const condition = v.object({
  of: v.pipe(
    v.variant('is', [
      v.object({ is: v.literal('column'), name: v.string() }),
      v.object({ is: v.literal('mark'), name: v.picklist(marks) }),
      v.object({ is: v.literal('formula'), formula: v.string() }),
    ]),
    v.title('Where'),
    v.metadata({ named: { widget: 'subject' } }),
  ),
  test: v.pipe(v.picklist([...textTests, ...listTests, ...orderTests, ...stateTests]), v.title('Test')),
  value: v.pipe(v.optional(v.union([v.string(), v.number(), v.boolean()]), ''), v.title('Value')),
  /** What is picked for a test on a list. */
  values: v.pipe(v.optional(v.array(v.string()), []), v.title('Values')),
});
export type Condition = v.InferOutput<typeof condition>;
type Test = Condition['test'];

const isOneOf = <T extends string>(all: readonly T[], test: string): test is T =>
  (all as readonly string[]).includes(test);
/** What a test compares with: a value, a list of values, or nothing. */
export const operandOf = (test: Test): 'value' | 'values' | 'none' =>
  isOneOf(listTests, test) ? 'values' : isOneOf(stateTests, test) ? 'none' : 'value';

const shownValues = 3;
export function describeCondition({ of, test, value, values }: Condition): string {
  if (of.is === 'formula') return of.formula.replace(/\s+/g, ' ').trim() || '(no formula yet)';
  const operand = {
    none: '',
    value: ` ${String(value) || '“”'}`,
    values: ` ${values.slice(0, shownValues).join(', ') || 'nothing'}${values.length > shownValues ? ` and ${values.length - shownValues} more` : ''}`,
  };
  return `${of.name} ${test}${operand[operandOf(test)]}`;
}

const texts: Record<
  Exclude<(typeof textTests)[number], 'has the pattern'>,
  (text: string, value: string) => boolean
> = {
  is: (text, value) => text === value,
  'is not': (text, value) => text !== value,
  contains: (text, value) => text.includes(value),
  'starts with': (text, value) => text.startsWith(value),
  'ends with': (text, value) => text.endsWith(value),
  'is like': (text, value) => wildcard(value).test(text),
};
const orders: Record<(typeof orderTests)[number], <T extends number | string>(own: T, value: T) => boolean> = {
  'is at least': (own, value) => own >= value,
  'is at most': (own, value) => own <= value,
  'is above': (own, value) => own > value,
  'is below': (own, value) => own < value,
};
const plain = (cell: Cell) => cellText(cell).trim().toLowerCase();

const formulasIn = (conditions: readonly Condition[]): string[] =>
  conditions.flatMap(({ of }) => (of.is === 'formula' ? [of.formula] : []));
export const neededBy = (conditions: readonly Condition[]): Need[] => needsOf(formulasIn(conditions));
/** Is each row asked for itself alone? */
export const areByRow = (conditions: readonly Condition[]): boolean => isByRow(formulasIn(conditions));

/** The test of one condition over a sheet's rows, or the problem that keeps it from being asked. */
export function testOf(
  sheet: Sheet,
  { of, test, value, values }: Condition,
  papers: Papers,
): ((row: number) => boolean) | Problem {
  if (of.is === 'formula') return testByFormula(sheet, of.formula, papers);
  const column = of.is === 'column' ? columnNamed(sheet, of.name) : undefined;
  if (of.is === 'column' && !column) return missingColumn(sheet, of.name);
  const mark = sheet.rows[rowMarks[of.is === 'mark' ? of.name : 'role']];
  const cell = (row: number): Cell => (column ? column.cells[row] : mark(row));
  if (test === 'is blank') return (row) => isBlank(cell(row));
  if (test === 'is filled') return (row) => !isBlank(cell(row));
  if (test === 'is a misfit') return (row) => isError(cell(row));
  if (isOneOf(orderTests, test)) {
    const compare = orders[test];
    // Numbers compare by size; dates, times and periods are ISO text, which sorts by time, and are never compared with numbers.
    const number = Number(value);
    const text = String(value);
    const dated = column !== undefined && ['date', 'time', 'datetime', 'period'].includes(column.type);
    return (row) => {
      const own = cell(row);
      return typeof own === 'number'
        ? !Number.isNaN(number) && text !== '' && compare(own, number)
        : dated && typeof own === 'string' && compare(own, text);
    };
  }
  if (isOneOf(listTests, test)) {
    const listed = new Set(values.map(plain));
    return (row) => listed.has(plain(cell(row))) === (test === 'is one of');
  }
  if (test === 'has the pattern') {
    const pattern = regularExpression(String(value));
    return isPattern(pattern) ? (row) => pattern.test(cellText(cell(row))) : pattern;
  }
  const wanted = String(value).toLowerCase();
  const holds = remembered((text) => texts[test](text.toLowerCase(), wanted));
  return (row) => holds(cellText(cell(row)));
}

/** Where a formula is true. A row in which it has no value keeps the whole from being asked: it must neither match nor not match unseen. */
function testByFormula(sheet: Sheet, text: string, papers: Papers): ((row: number) => boolean) | Problem {
  const formula = formulaFor(sheet, text);
  if (!isFormula(formula)) return formula;
  if (formula.type !== 'boolean')
    return {
      kind: 'step',
      expected: 'a formula that is true or false',
      came: `“${text}”, which is neither`,
      remedy: 'Compare it with something, as "Value" > 0.',
    };
  const result = formula.over(formulaRows(sheet, papers));
  const cells = sheet.rows.map(result);
  const failing = cells.findIndex(isError);
  if (failing >= 0) {
    const { text: came, expected } = cells[failing] as ErrorCell;
    return {
      kind: 'step',
      page: sheet.rows.page(failing),
      row: sheet.rows.id(failing),
      expected,
      came: `“${came}” in ${cells.filter(isError).length} of ${cells.length} rows`,
      remedy: 'Say in the formula what holds there, with case or nullif, or hold these rows above.',
    };
  }
  return (row) => cells[row] === true;
}
