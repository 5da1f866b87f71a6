import { answeredName, changing } from './answers';
import type { Expecting, Seen } from './difference';
import { moment, nameKey } from './name-key';
import type { ColumnTraits, TableTraits } from './traits';

/** A column of a report under the name that it has by the answers and spellings. */
export interface ResolvedColumn {
  /** What it is compared by. */
  readonly key: string;
  readonly name: string;
  readonly printed: ColumnTraits;
}

/** What a rule found in a report, with its columns named as they enter the steps. */
export interface ResolvedTable {
  readonly seen: Seen;
  readonly table: TableTraits;
  readonly columns: readonly ResolvedColumn[];
}

/** What a rule found in each report; undefined where it took nothing. */
export const resolvedTables = (
  rule: string,
  seen: readonly Seen[],
  { answers, spelled }: Pick<Expecting, 'answers' | 'spelled'>,
): (ResolvedTable | undefined)[] =>
  seen.map((each) => {
    const table = each.traits.tables.find((own) => own.rule === rule);
    if (!table) return undefined;
    const own = changing(answers, each);
    const counts = new Map<string, number>();
    const columns = table.columns.flatMap((printed): ResolvedColumn[] => {
      const answered = answeredName(own, rule, printed.name);
      if (answered === undefined) return [];
      const name = spelled(answered);
      const key = nameKey(name);
      const nth = (counts.get(key) ?? 0) + 1;
      counts.set(key, nth);
      // Columns named by moments alone come and go by themselves: they are one.
      return key === moment && nth > 1 ? [] : [{ key: nth > 1 ? `${key} ${nth}` : key, name, printed }];
    });
    return { seen: each, table, columns };
  });

export const columnOf = (table: ResolvedTable | undefined, key: string): ResolvedColumn | undefined =>
  table?.columns.find((column) => column.key === key);

/** The reports that say what is expected: those in the dataset, or all where none is yet. */
export function expectedOf(tables: readonly (ResolvedTable | undefined)[]): number[] {
  const all = tables.flatMap((table, i) => (table ? [i] : []));
  const known = all.filter((i) => tables[i]!.seen.known);
  return known.length > 0 ? known : all;
}
