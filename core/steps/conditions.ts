import * as v from 'valibot';
import { cellText, isBlank, isError } from '../sheet/cell';
import type { Problem } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import { missingColumn, sameName, wildcard } from './column-choice';

export const textTests = ['is', 'is not', 'contains', 'starts with', 'ends with', 'is like'] as const;
export const numberTests = ['is at least', 'is at most', 'is above', 'is below'] as const;
export const stateTests = ['is blank', 'is filled', 'is a misfit'] as const;
export const marks = ['role', 'bold', 'shaded', 'page', 'indent'] as const;

/** One test on a cell or on a mark of the row. */
export const condition = v.object({
  of: v.pipe(v.variant('is', [v.object({ is: v.literal('column'), name: v.string() }), v.object({ is: v.literal('mark'), name: v.picklist(marks) })]), v.title('Where')),
  test: v.pipe(v.picklist([...textTests, ...numberTests, ...stateTests]), v.title('Test')),
  value: v.pipe(v.optional(v.union([v.string(), v.number(), v.boolean()]), ''), v.title('Value')),
});
export type Condition = v.InferOutput<typeof condition>;

export const describeCondition = ({ of, test, value }: Condition) => `${of.name} ${test}${(stateTests as readonly string[]).includes(test) ? '' : ` ${String(value) || '“”'}`}`;

const texts: Record<(typeof textTests)[number], (text: string, value: string) => boolean> = {
  is: (text, value) => text === value,
  'is not': (text, value) => text !== value,
  contains: (text, value) => text.includes(value),
  'starts with': (text, value) => text.startsWith(value),
  'ends with': (text, value) => text.endsWith(value),
  'is like': (text, value) => wildcard(value).test(text),
};
const numbers: Record<(typeof numberTests)[number], (number: number, value: number) => boolean> = {
  'is at least': (number, value) => number >= value,
  'is at most': (number, value) => number <= value,
  'is above': (number, value) => number > value,
  'is below': (number, value) => number < value,
};

/** The test of one condition over a sheet's rows, or the problem that keeps it from being asked. */
export function testOf(sheet: Sheet, { of, test, value }: Condition): ((row: number) => boolean) | Problem {
  const column = of.is === 'column' ? sheet.columns.find((c) => sameName(c.name, of.name)) : undefined;
  if (of.is === 'column' && !column) return missingColumn(sheet, of.name);
  const cell = (row: number) => (column ? column.cells[row] : sheet.rows[row][of.name as (typeof marks)[number]]);
  if (test === 'is blank') return (row) => isBlank(cell(row));
  if (test === 'is filled') return (row) => !isBlank(cell(row));
  if (test === 'is a misfit') return (row) => isError(cell(row));
  if (test in numbers) {
    const wanted = Number(value);
    return (row) => {
      const own = cell(row);
      return typeof own === 'number' && numbers[test as keyof typeof numbers](own, wanted);
    };
  }
  const wanted = String(value).toLowerCase();
  return (row) => texts[test as keyof typeof texts](cellText(cell(row)).toLowerCase(), wanted);
}
