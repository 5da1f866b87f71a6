import type { Expression } from '../formula/ast';
import { isFault, parseFormula } from '../formula/parse';
import { quotedName, quotedText } from '../formula/print';
import { isNumeric, type ValueType } from '../sheet/column';
import type { Condition } from './conditions';

type Column = { readonly name: string; readonly type: ValueType };

const dated: readonly ValueType[] = ['date', 'time', 'datetime'];

/** A condition as a formula that says the same; undefined: none does. @param columns as they are called above, with their types */
export function conditionAsFormula(
  { of, test, value, values }: Condition,
  columns: readonly Column[],
): string | undefined {
  if (of.is === 'formula') return of.formula;
  if (of.is === 'mark')
    return of.name === 'page' &&
      ['is at least', 'is at most', 'is above', 'is below'].includes(test) &&
      Number.isFinite(Number(value)) &&
      value !== ''
      ? `report.page ${orders[test]} ${Number(value)}`
      : undefined;
  const type = columns.find(({ name }) => name === of.name)?.type ?? 'text';
  const name = quotedName(of.name);
  const number = value !== '' && Number.isFinite(Number(value)) ? String(Number(value)) : undefined;
  if (test === 'is blank') return `${name} is null`;
  if (test === 'is filled') return `${name} is not null`;
  if (orders[test]) {
    if (isNumeric(type)) return number === undefined ? undefined : `${name} ${orders[test]} ${number}`;
    return dated.includes(type) || type === 'period'
      ? `${name} ${orders[test]} ${quotedText(String(value))}`
      : undefined;
  }
  // Other tests are on texts, capitals or not.
  if (type !== 'text' && type !== 'period') return undefined;
  const text = quotedText(String(value).toLowerCase());
  const small = `lower(${name})`;
  switch (test) {
    case 'is':
      return value === '' ? undefined : `${small} = ${text}`;
    case 'is not':
      return value === '' ? undefined : `${small} is distinct from ${text}`;
    case 'contains':
      return value === '' ? undefined : `position(${text} in ${small}) > 0`;
    case 'starts with':
      return value === '' ? undefined : `starts_with(${small}, ${text})`;
    case 'is one of':
      return values.length === 0
        ? undefined
        : `btrim(${small}) in (${values.map((each) => quotedText(each.trim().toLowerCase())).join(', ')})`;
    case 'is none of':
      return values.length === 0
        ? undefined
        : `btrim(${small}) in (${values.map((each) => quotedText(each.trim().toLowerCase())).join(', ')}) is not true`;
    default:
      return undefined;
  }
}

const orders: Readonly<Record<string, string>> = {
  'is at least': '>=',
  'is at most': '<=',
  'is above': '>',
  'is below': '<',
};
const testOfSign = Object.fromEntries(Object.entries(orders).map(([test, sign]) => [sign, test as Condition['test']]));

const asText = (of: Expression | undefined): string | undefined => (of?.kind === 'text' ? of.value : undefined);
function asNumber(of: Expression | undefined): number | undefined {
  if (of?.kind === 'number') return Number(of.text);
  return of?.kind === 'call' && of.name === '-' && of.args.length === 1 && of.args[0].kind === 'number'
    ? -Number(of.args[0].text)
    : undefined;
}
/** The column of lower("Column"), or with trimmed ends. */
function smallColumn(of: Expression | undefined, trimmed = false): string | undefined {
  if (of?.kind !== 'call') return undefined;
  if (trimmed) return of.name === 'btrim' && of.args.length === 1 ? smallColumn(of.args[0]) : undefined;
  return of.name === 'lower' && of.args[0]?.kind === 'column' ? of.args[0].name : undefined;
}

/** A formula as a condition of the form that says the same; undefined: it says more than one can. */
export function conditionFromFormula(text: string): Condition | undefined {
  const of = parseFormula(text);
  if (isFault(of) || of.kind !== 'call') return undefined;
  const made = (
    name: string | undefined,
    test: Condition['test'],
    value: string | number | undefined,
    values: readonly string[] = [],
  ): Condition | undefined =>
    name === undefined || value === undefined
      ? undefined
      : { of: { is: 'column', name }, test, value, values: [...values] };
  const [a, b] = of.args;
  const column = a?.kind === 'column' ? a.name : undefined;
  switch (of.name) {
    case 'is null':
      return made(column, 'is blank', '');
    case 'is not null':
      return made(column, 'is filled', '');
    case '>=':
    case '<=':
    case '<':
    case '>': {
      const value = asNumber(b) ?? asText(b);
      if (a?.kind === 'report' && a.field === 'page' && typeof value === 'number')
        return { of: { is: 'mark', name: 'page' }, test: testOfSign[of.name], value, values: [] };
      if (of.name === '>' && a?.kind === 'call' && a.name === 'position' && asNumber(b) === 0)
        return made(smallColumn(a.args[1]), 'contains', asText(a.args[0]));
      return made(column, testOfSign[of.name], value);
    }
    case '=':
      return made(smallColumn(a), 'is', asText(b));
    case 'is distinct from':
      return made(smallColumn(a), 'is not', asText(b));
    case 'starts_with':
      return made(smallColumn(a), 'starts with', asText(b));
    case 'in':
      return listed(of, 'is one of', made);
    case 'is not true':
      return a?.kind === 'call' && a.name === 'in' ? listed(a, 'is none of', made) : undefined;
    default:
      return undefined;
  }
}

function listed(
  { args: [of, ...list] }: Extract<Expression, { kind: 'call' }>,
  test: Condition['test'],
  made: (
    name: string | undefined,
    test: Condition['test'],
    value: string,
    values: readonly string[],
  ) => Condition | undefined,
): Condition | undefined {
  const values = list.map(asText);
  return values.every((value) => value !== undefined) ? made(smallColumn(of, true), test, '', values) : undefined;
}
