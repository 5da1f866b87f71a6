import type { RowHere } from '../../core/checks/reconcile';
import { selectedByHeading } from './by-heading';
import { dataTableOf } from './data-table';
import { batchRows, quoted, type Store } from './store';

/**
 * The rows of some parts with some of their columns, in the order of the parts and in pieces, so that others get their turn in
 * between; undefined where no part has one of the columns.
 */
export async function rowsOfParts(
  store: Store,
  pipeline: number,
  parts: readonly number[],
  keys: readonly string[],
  columns: readonly string[],
): Promise<AsyncGenerator<RowHere[]> | undefined> {
  const named = await selectedByHeading(store, pipeline, [...keys, ...columns]);
  if (named === undefined) return undefined;
  const table = quoted(await dataTableOf(store, pipeline));
  return (async function* () {
    let place = 0;
    for (const part of parts)
      for (let from = 0, full = true; full; from += batchRows) {
        const piece = await store.query<Record<string, string | null>>(
          `select ${named} from ${table} where part = $1 and ordinal >= $2 and ordinal < $3 order by ordinal`,
          [part, from, from + batchRows],
        );
        full = piece.length === batchRows;
        yield piece.map((row): RowHere => {
          const cellAt = (i: number) => row[`k${i}`];
          return {
            row: place++,
            keys: keys.map((_, i) => cellAt(i)),
            cells: columns.map((_, i) => cellAt(keys.length + i)),
          };
        });
      }
  })();
}
