import { isErrorCell, type OutRow } from '../../export/out-row';
import { rowsOf } from '../../export/out-rows';
import type { DatasetColumn } from '../../store/data-table';
import type { Publication } from '../../store/dataset';
import type { Store } from '../../store/store';
import { keyName } from './sets';

/** Rows of a dataset as entities. @param places numbers of the rows, from 0 */
export async function entitiesAt(
  store: Store,
  publication: Publication,
  columns: readonly DatasetColumn[],
  places: Uint32Array,
): Promise<object[]> {
  const all: object[] = [];
  let at = 0;
  for await (const rows of rowsOf(store, publication, { columns, places }))
    for (const row of rows) all.push({ [keyName]: places[at++] + 1, ...entity(row, columns) });
  return all;
}

/** A row by the identifiers of its columns; error cells are null, and told as instance annotations. */
function entity({ cells }: OutRow, columns: readonly DatasetColumn[]): Record<string, unknown> {
  return Object.fromEntries(
    columns.flatMap(({ identifier, type }, i): [string, unknown][] => {
      const cell = cells[i];
      if (cell !== null && isErrorCell(cell))
        return [
          [`${identifier}@problem.text`, cell.text],
          [identifier, null],
        ];
      return [[identifier, cell !== null && type === 'datetime' ? `${String(cell).replace(' ', 'T')}Z` : cell]];
    }),
  );
}
