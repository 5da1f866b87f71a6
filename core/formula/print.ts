import type { Expression } from './ast';
import { binding, strengthOf } from './strength';

/** A text in quotes, as a formula has it. */
export const quotedText = (text: string): string => `'${text.replaceAll("'", "''")}'`;
export const quotedName = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** Prints a part in another way than formulas do: another dialect of SQL, say. Undefined: as formulas do. It must bind as a value does. */
export type Dialect = (of: Expression, print: (of: Expression) => string) => string | undefined;

/** A formula as text, with no more brackets than it needs: parsed again it is the same. */
export function printFormula(of: Expression, dialect: Dialect = () => undefined): string {
  const whole = (each: Expression): string =>
    dialect(each, whole) ??
    text(each, (part, least) => {
      const own = whole(part);
      return strengthOf(part) < least && dialect(part, whole) === undefined ? `(${own})` : own;
    });
  return whole(of);
}

function text(of: Expression, inside: (part: Expression, least: number) => string): string {
  switch (of.kind) {
    case 'number':
      return of.text;
    case 'text':
      return quotedText(of.value);
    case 'boolean':
      return String(of.value);
    case 'null':
      return 'null';
    case 'column':
      return quotedName(of.name);
    case 'report':
      return `report.${/\W/.test(of.field) ? quotedName(of.field) : of.field}`;
    case 'case':
      return `case${of.of ? ` ${inside(of.of, 0)}` : ''}${of.whens.map(([when, then]) => ` when ${inside(when, 0)} then ${inside(then, 0)}`).join('')}${of.otherwise ? ` else ${inside(of.otherwise, 0)}` : ''} end`;
    case 'cast':
      return `${inside(of.of, binding.cast)}::${of.into}${of.digits ? `(${of.digits.join(', ')})` : ''}`;
    case 'call':
      return called(of, inside);
  }
}

function called(
  { name, args, over }: Extract<Expression, { kind: 'call' }>,
  inside: (part: Expression, least: number) => string,
): string {
  const [a, b, c] = args;
  const window = over
    ? ` over (${[over.partitionBy.length > 0 ? `partition by ${over.partitionBy.map((each) => inside(each, 0)).join(', ')}` : '', over.ordered ? 'order by report.row' : ''].filter(Boolean).join(' ')})`
    : '';
  if (name === 'not') return `not ${inside(a, binding.not)}`;
  if (name.startsWith('is '))
    return args.length === 1
      ? `${inside(a, binding.is + 1)} ${name}`
      : `${inside(a, binding.is + 1)} ${name} ${inside(b, binding.is + 1)}`;
  if (name === 'between')
    return `${inside(a, binding.within + 1)} between ${inside(b, binding.within + 1)} and ${inside(c, binding.within + 1)}`;
  if (name === 'in')
    return `${inside(a, binding.within + 1)} in (${args
      .slice(1)
      .map((each) => inside(each, 0))
      .join(', ')})`;
  if (name === 'like' || name === 'ilike')
    return `${inside(a, binding.within + 1)} ${name} ${inside(b, binding.within + 1)}${c ? ` escape ${inside(c, binding.within + 1)}` : ''}`;
  if (name === 'extract') return `extract(${a.kind === 'text' ? a.value : ''} from ${inside(b, 0)})`;
  if (name === 'position') return `position(${inside(a, binding.within + 1)} in ${inside(b, 0)})`;
  if (name === 'count' && args.length === 0) return `count(*)${window}`;
  if (/^\w/.test(name))
    return name === 'and' || name === 'or'
      ? `${inside(a, binding[name])} ${name} ${inside(b, binding[name] + 1)}`
      : `${name}(${args.map((each) => inside(each, 0)).join(', ')})${window}`;
  // Two signs in a row would be another sign, or a comment.
  if (args.length === 1) return `${name} ${inside(a, binding.sign)}`;
  const strength = strengthOf({ from: 0, to: 0, kind: 'call', name, args });
  return `${inside(a, strength === binding.compared ? strength + 1 : strength)} ${name} ${inside(b, strength + 1)}`;
}
