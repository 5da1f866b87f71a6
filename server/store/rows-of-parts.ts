import type { RowHere } from '../../core/checks/reconcile';
import type { Cell } from '../../core/values/cell';
import { dataTableOf } from './data-table';
import { batchRows, quoted, type Store } from './store';

/**
 * The rows of some parts, in the order of the parts, with some of their columns; undefined where no part has one of them.
 * Rows are read in pieces.
 */
export async function rowsOfParts(store: Store, pipeline: number, parts: readonly number[], keys: readonly string[], columns: readonly string[]): Promise<RowHere[] | undefined> {
  const catalogue = await store.query<{ identifier: string; heading: string; type: string }>('select identifier, heading, type from dataset_column where pipeline = $1', [pipeline]);
  const wanted = [...keys, ...columns].map((heading) => catalogue.filter((column) => column.heading === heading).map(({ identifier }) => `${quoted(identifier)}::text`));
  if (wanted.some((own) => own.length === 0)) return undefined;
  const named = wanted.map((own, i) => `coalesce(${own.join(', ')}) as k${i}`).join(', ');
  const table = quoted(await dataTableOf(store, pipeline));
  const rows: RowHere[] = [];
  for (const part of parts)
    for (let from = 0; ; from += batchRows) {
      const piece = await store.query<Record<string, string | null>>(`select ${named} from ${table} where part = $1 and ordinal >= $2 and ordinal < $3 order by ordinal`, [part, from, from + batchRows]);
      for (const row of piece) {
        const cells = wanted.map((_, i): Cell => row[`k${i}`]);
        rows.push({ row: rows.length, keys: cells.slice(0, keys.length), cells: cells.slice(keys.length) });
      }
      if (piece.length < batchRows) break;
    }
  return rows;
}
