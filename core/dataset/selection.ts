import { isNumeric, type ValueType } from '../sheet/column';

export const tests = [
  'is',
  'is not',
  'less than',
  'at most',
  'at least',
  'more than',
  'contains',
  'is blank',
  'is not blank',
  'is an error',
] as const;
export type Test = (typeof tests)[number];

/** One condition that rows of the dataset must meet. */
export interface Condition {
  readonly column: string;
  readonly test: Test;
  /** For tests against a value; several: one of them must do. */
  readonly values: readonly string[];
}

export interface OrderBy {
  readonly column: string;
  readonly down: boolean;
}

/** Some rows of a dataset in an order: those that meet all conditions, in the order of the dataset where none is asked for. */
export interface Selection {
  readonly where: readonly Condition[];
  readonly order: readonly OrderBy[];
}

export const everything: Selection = { where: [], order: [] };
export const isEverything = ({ where, order }: Selection): boolean => where.length === 0 && order.length === 0;

/** A selection that cannot be made, with a sentence that says why. */
export class NoSelection extends Error {}

const signs: Readonly<Record<string, Test>> = {
  '=': 'is',
  '!=': 'is not',
  '<': 'less than',
  '<=': 'at most',
  '>': 'more than',
  '>=': 'at least',
  '~': 'contains',
};
const withoutValue: readonly (readonly [RegExp, Test])[] = [
  [/^(.*\S)\s+is\s+not\s+blank$/i, 'is not blank'],
  [/^(.*\S)\s+is\s+blank$/i, 'is blank'],
  [/^(.*\S)\s+is\s+an\s+error$/i, 'is an error'],
];

/** Values with bars between; a bar or backslash that belongs to a value has a backslash before it. */
export function valuesFrom(text: string): string[] {
  const values = [''];
  for (let at = 0; at < text.length; at++) {
    const last = values.length - 1;
    if (text[at] === '|') values.push('');
    else if (text[at] === '\\' && /[|\\]/.test(text[at + 1] ?? '')) values[last] += text[++at];
    else values[last] += text[at];
  }
  return values.map((value) => value.trim());
}

/** A value as it is written among others: see `valuesFrom`. */
export const valueText = (value: string): string => value.replace(/[|\\]/g, '\\$&');

/**
 * A condition as it is written in an address: `Boxes >= 10`, `Quay = Saltby|Fairlead`, `Value is blank`. Bars part values of which one must
 * do. Headings may hold signs: the longest heading that the text begins with is meant.
 * @throws NoSelection
 */
export function conditionFrom(text: string, headings: readonly string[]): Condition {
  for (const [pattern, test] of withoutValue) {
    const column = pattern.exec(text.trim())?.[1];
    if (column !== undefined && headings.includes(column)) return { column, test, values: [] };
  }
  const column = headings
    .filter((heading) => text.trimStart().startsWith(heading))
    .sort((a, b) => b.length - a.length)[0];
  const rest =
    column === undefined ? undefined : /^\s*(!=|<=|>=|=|<|>|~)\s*(.*)$/s.exec(text.trimStart().slice(column.length));
  if (column === undefined || !rest)
    throw new NoSelection(
      `“${text}” is no condition: write a heading of the dataset, one of = != < <= > >= ~ (contains), and a value; or “… is blank”, “… is not blank”, “… is an error”.`,
    );
  return { column, test: signs[rest[1]], values: valuesFrom(rest[2]) };
}

/** The order as it is written in an address: `Value desc, Week`. @throws NoSelection */
export function orderFrom(text: string, headings: readonly string[]): OrderBy[] {
  const found: OrderBy[] = [];
  // A heading may hold a comma: headings are looked for, and not commas.
  let rest = text.trim();
  while (rest !== '') {
    const column = headings.filter((heading) => rest.startsWith(heading)).sort((a, b) => b.length - a.length)[0];
    const behind = column === undefined ? undefined : /^\s*(asc|desc)?\s*(?:,\s*|$)/i.exec(rest.slice(column.length));
    if (column === undefined || !behind)
      throw new NoSelection(
        `“${rest}” is no order: write headings of the dataset with commas between, “desc” behind one for the largest first.`,
      );
    found.push({ column, down: behind[1]?.toLowerCase() === 'desc' });
    rest = rest.slice(column.length + behind[0].length);
  }
  return found;
}

/** Headings with commas between, as they are written in an address. @throws NoSelection */
export const columnsFrom = (text: string, headings: readonly string[]): string[] =>
  orderFrom(text, headings).map(({ column }) => column);

/** A condition as an address has it: see `conditionFrom`. */
export function conditionText({ column, test, values }: Condition): string {
  const sign = Object.entries(signs).find(([, own]) => own === test)?.[0];
  return sign === undefined ? `${column} ${test}` : `${column} ${sign} ${values.map(valueText).join('|')}`;
}

/** An order as an address has it: see `orderFrom`. */
export const orderText = (order: readonly OrderBy[]): string =>
  order.map(({ column, down }) => `${column}${down ? ' desc' : ''}`).join(', ');

const isNumber = (text: string) => /^[-+]?(?:\d+\.?\d*|\.\d+)$/.test(text);
/** A day, or a month or year, before all of whose days it stands. */
const isDay = (text: string) => /^\d{4}(?:-\d{2}(?:-\d{2})?)?$/.test(text);

/** Why a condition cannot be asked of a column of this type; undefined if it can. */
export function misfitOf({ column, test, values }: Condition, type: ValueType): string | undefined {
  if (test === 'contains') return undefined;
  const number = isNumeric(type) ? values.find((value) => !isNumber(value)) : undefined;
  if (number !== undefined)
    return `“${column}” holds numbers: “${number}” is none. Write it with a point and without marks between thousands.`;
  const day = type === 'date' ? values.find((value) => !isDay(value)) : undefined;
  return day === undefined ? undefined : `“${column}” holds dates: “${day}” is none. Write it as 2025-03-31.`;
}
