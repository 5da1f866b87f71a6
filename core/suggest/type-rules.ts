import { chosen } from '../steps/column-choice';
import type { TypeRule } from '../steps/set-types';
import type { Column } from '../sheet/column';
import { noRows } from '../sheet/row';
import { formatOf, type Format } from '../values/format';

const bare = (name: string): Column => ({ name, type: 'text', cells: [], origins: new Int32Array(0) });

/** For each column the rule that sets its type: the last that chooses it. */
export function rulesByColumn(types: readonly TypeRule[], columns: readonly string[]): ReadonlyMap<string, TypeRule> {
  const sheet = { columns: columns.map(bare), rows: noRows };
  return new Map(types.flatMap((rule) => chosen(sheet, rule.columns).columns.map(({ name }) => [name, rule] as const)));
}

/** Is it a rule for this column and no other? */
const isFor = ({ columns: choice }: TypeRule, column: string): boolean =>
  choice.by === 'names'
    ? choice.names.length === 1 && choice.names[0] === column
    : choice.by === 'names matching' && choice.pattern === column;

/** The rules with one column read otherwise: by a rule of its own, in place of the one that named it alone. */
export function withFormat(types: readonly TypeRule[], column: string, changes: Partial<TypeRule>): TypeRule[] {
  const before = rulesByColumn(types, [column]).get(column);
  const format: Format = before ?? formatOf({ type: 'text' });
  const own: TypeRule = {
    reason: '',
    byHand: false,
    settled: '',
    ...format,
    ...changes,
    columns: { by: 'names', names: [column] },
  };
  const at = types.findIndex((rule) => isFor(rule, column));
  if (at >= 0) return types.map((rule, i) => (i === at ? { ...own, columns: rule.columns } : rule));
  const others = types
    .map((rule) =>
      rule.columns.by === 'names'
        ? { ...rule, columns: { ...rule.columns, names: rule.columns.names.filter((name) => name !== column) } }
        : rule,
    )
    .filter(({ columns: choice }) => choice.by !== 'names' || choice.names.length > 0);
  return [...others, own];
}

/** The rules with what was worked out written in; a column of words needs none, and what was set by hand stays. */
export function withWorkedOut(
  types: readonly TypeRule[],
  worked: readonly { name: string; everywhere: boolean; format: Format; reason: string }[],
): TypeRule[] {
  const before = rulesByColumn(
    types,
    worked.map(({ name }) => name),
  );
  const proposed = worked.filter(({ name }) => !before.get(name)?.byHand);
  const named = new Set(proposed.map(({ name }) => name));
  const others = types.flatMap((rule): TypeRule[] => {
    if (proposed.some(({ name }) => isFor(rule, name))) return [];
    if (rule.columns.by !== 'names') return [rule];
    const names = rule.columns.names.filter((name) => !named.has(name));
    return names.length > 0 ? [{ ...rule, columns: { by: 'names', names } }] : [];
  });
  const ruled = rulesByColumn(others, [...named]);
  const written = proposed.filter(
    ({ name, format, reason }) => format.type !== 'text' || reason.startsWith('A code') || ruled.has(name),
  );
  return [
    ...others,
    ...written.map(({ name, everywhere, format, reason }): TypeRule => ({
      columns: chosenAs(name, everywhere),
      ...format,
      reason,
      byHand: false,
      settled: before.get(name)?.settled ?? '',
    })),
  ];
}

/** A column that some reports lack is known by its name as a pattern, which may find none. */
const chosenAs = (name: string, everywhere: boolean): TypeRule['columns'] =>
  everywhere || name.includes('*') ? { by: 'names', names: [name] } : { by: 'names matching', pattern: name };
