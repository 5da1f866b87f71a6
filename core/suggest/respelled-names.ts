import { cellText, isBlank } from '../values/cell';
import type { Column } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import { isNamed, plural, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

/** Columns that some reports call otherwise: at the same place among the same others, of like contents, and never both in one report. */
export const respelledNames: Detector = ({ reports }) => {
  const tables = reports.flatMap(tablesOf).filter(isNamed);
  const named = new Map<string, { readonly names: readonly string[]; readonly tables: Sheet[] }>();
  for (const table of tables) {
    const names = table.columns.map(({ name }) => name);
    const key = JSON.stringify(names);
    const known = named.get(key);
    if (known) known.tables.push(table);
    else named.set(key, { names, tables: [table] });
  }
  const groups = [...named.values()].sort((a, b) => b.tables.length - a.tables.length);
  const renamed = new Map<string, Set<string>>();
  const tablesWith = new Map<string, number>();
  for (const [n, { names, tables: own }] of groups.entries())
    for (const usual of groups.slice(0, n)) {
      if (names.length !== usual.names.length || own.length >= usual.tables.length) continue;
      const differ = names.flatMap((name, at) => (name === usual.names[at] ? [] : [at]));
      if (differ.length * 2 > names.length) continue;
      for (const at of differ)
        if (
          !usual.names.includes(names[at]) &&
          !names.includes(usual.names[at]) &&
          !renamed.has(names[at]) &&
          alike(usual.tables[0].columns[at], own[0].columns[at])
        ) {
          renamed.set(usual.names[at], (renamed.get(usual.names[at]) ?? new Set()).add(names[at]));
          tablesWith.set(
            usual.names[at],
            tables.filter(({ columns }) => columns.some(({ name }) => name === usual.names[at])).length,
          );
        }
    }
  if (renamed.size === 0) return [];
  const says = [...renamed].map(
    ([to, from]) =>
      `“${[...from].join('”, “')}” stands where ${plural(tablesWith.get(to)!, 'table has', 'tables have')} “${to}”`,
  );
  return [
    {
      zone: 'eachTable',
      kind: 'rename',
      settings: { names: [...renamed].map(([to, from]) => ({ to, from: [...from] })) },
      reason: says.join('; '),
    },
  ];
};

/** Are most of both digits, or most of both words? */
function alike(a: Column, b: Column): boolean {
  const numbers = ({ cells }: Column) => {
    const filled = cells.filter((cell) => !isBlank(cell)).map(cellText);
    return filled.filter((text) => /^[\p{Sc}(+\-–−]?\s*\d/u.test(text)).length * 2 > filled.length;
  };
  return numbers(a) === numbers(b);
}
