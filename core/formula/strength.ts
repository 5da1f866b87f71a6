import type { Expression } from './ast';

/** How strongly signs and words bind, from the loosest (PostgreSQL, "Operator Precedence"). */
export const binding = {
  or: 1,
  and: 2,
  not: 3,
  is: 4,
  compared: 5,
  within: 6,
  other: 7,
  sum: 8,
  product: 9,
  power: 10,
  sign: 11,
  cast: 12,
  value: 13,
} as const;

/** Signs and words between two values. */
export const binary: Readonly<Record<string, number>> = {
  or: binding.or,
  and: binding.and,
  '<': binding.compared,
  '>': binding.compared,
  '=': binding.compared,
  '<=': binding.compared,
  '>=': binding.compared,
  '<>': binding.compared,
  '||': binding.other,
  '~': binding.other,
  '~*': binding.other,
  '!~': binding.other,
  '!~*': binding.other,
  '+': binding.sum,
  '-': binding.sum,
  '*': binding.product,
  '/': binding.product,
  '%': binding.product,
  '^': binding.power,
};
/** Nothing may follow that binds as strongly without brackets: a < b < c. */
export const single: ReadonlySet<number> = new Set([binding.compared, binding.within]);
export const quantifiers: readonly string[] = ['like', 'ilike', 'in', 'between'];

export function strengthOf(of: Expression): number {
  if (of.kind === 'cast') return binding.cast;
  if (of.kind !== 'call') return binding.value;
  if (of.name === 'not') return binding.not;
  if (of.name.startsWith('is ')) return binding.is;
  if (quantifiers.includes(of.name)) return binding.within;
  if (of.args.length === 1 && /^[+-]$/.test(of.name)) return binding.sign;
  return binary[of.name] ?? binding.value;
}
