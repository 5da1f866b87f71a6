import type { Cell } from '../../core/values/cell';
import { selectedByHeading } from './by-heading';
import { dataTableOf } from './data-table';
import { quoted, type Store } from './store';

/** What several rows of some parts have alike, and how many rows; blank keys are none. */
export interface DoubledKey {
  readonly cells: readonly Cell[];
  readonly rows: number;
}

/**
 * Keys that several rows have, over all parts that are to be published.
 * @param headings of the columns that make the key
 * @returns some of them, and how many there are; undefined where a column is in none of the parts
 */
export async function doubledKeys(
  store: Store,
  pipeline: number,
  parts: readonly number[],
  headings: readonly string[],
  most = 3,
): Promise<{ some: DoubledKey[]; keys: number } | undefined> {
  const named = await selectedByHeading(store, pipeline, headings);
  if (named === undefined || parts.length === 0) return undefined;
  const list = headings.map((_, i) => `k${i}`).join(', ');
  const doubled = `select ${list}, count(*) as n from (select ${named} from ${quoted(await dataTableOf(store, pipeline))} where part = any(string_to_array($1, ',')::int[])) d where ${headings.map((_, i) => `k${i} is not null`).join(' or ')} group by ${list} having count(*) > 1`;
  const rows = await store.query<Record<string, string | null> & { n: string; total: string }>(
    `select *, count(*) over () as total from (${doubled}) x order by n desc, ${list} limit $2`,
    [parts.join(','), most],
  );
  return {
    some: rows.map((row) => ({ cells: headings.map((_, i) => row[`k${i}`]), rows: Number(row.n) })),
    keys: Number(rows[0]?.total ?? 0),
  };
}
