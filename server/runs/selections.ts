import type { Selection } from '../../core/dataset/selection';
import { holds, type CellFound, type Sought } from '../../core/sheet/find-cell';
import {
  columnMeasure,
  measured,
  stretchesByColumn,
  wholeColumn,
  type CellRange,
  type ColumnMeasure,
  type Measured,
} from '../../core/sheet/measure';
import { rowsOf } from '../export/out-rows';
import type { Publication } from '../store/dataset';
import { selectedRows } from '../store/selected-rows';
import type { Store } from '../store/store';
import { Recent } from '../work/recent';

/** Row numbers kept in memory, of all selections together; four bytes each. */
const mostKept = 20_000_000;
/** What a selection of no rows weighs. */
const leastWeight = 1_000;

/** The rows that selections of published datasets take, by their numbers: worked out once, as a publication never changes. */
export class Selections {
  private readonly kept = new Recent<Uint32Array>(mostKept, (places) => places.length + leastWeight);

  constructor(private readonly store: Store) {}

  /** @param filter one condition more, which `filtered` has in SQL: see `selectedRows` */
  placesOf = (
    publication: Publication,
    selection: Selection,
    filter = '',
    filtered?: Parameters<typeof selectedRows>[3],
  ): Promise<Uint32Array> =>
    this.kept.get(JSON.stringify([publication.token, selection, filter]), () =>
      selectedRows(this.store, publication, selection, filtered),
    );

  /** What some cells of a selection hold together. @param ranges rows as they stand in the selection */
  async measure(publication: Publication, selection: Selection, ranges: readonly CellRange[]): Promise<Measured> {
    const places = await this.placesOf(publication, selection);
    const parts: ColumnMeasure[] = [];
    for (const [at, stretches] of stretchesByColumn(ranges)) {
      const column = publication.columns[at];
      if (!column) continue;
      const pieces: ColumnMeasure[] = [];
      for (const [from, to] of stretches)
        for await (const rows of rowsOf(this.store, publication, {
          columns: [column],
          places: places.subarray(from, to + 1),
        }))
          pieces.push(
            columnMeasure(
              {
                type: column.type,
                ...(column.unit ? { unit: column.unit } : {}),
                cells: rows.map(({ cells }) => cells[0]),
              },
              [[0, rows.length - 1]],
            ),
          );
      if (pieces.length > 0) parts.push(wholeColumn(pieces));
    }
    return measured(parts);
  }

  /** The next cell of a selection that holds a text, line by line from a place on and round the end, and how many there are. */
  async find(
    publication: Publication,
    selection: Selection,
    sought: Sought,
    from: { readonly row: number; readonly column: number },
    back: boolean,
  ): Promise<CellFound> {
    const places = await this.placesOf(publication, selection);
    const found: { row: number; column: number }[] = [];
    let at = 0;
    for await (const rows of rowsOf(this.store, publication, { columns: publication.columns, places })) {
      for (const { cells } of rows) {
        cells.forEach((cell, column) => {
          if (holds(cell, sought)) found.push({ row: at, column });
        });
        at++;
      }
    }
    if (found.length === 0) return { count: 0 };
    const isBefore = (each: { row: number; column: number }) =>
      each.row < from.row || (each.row === from.row && each.column < from.column);
    const isBehind = (each: { row: number; column: number }) =>
      each.row > from.row || (each.row === from.row && each.column > from.column);
    return {
      count: found.length,
      place: back ? (found.findLast(isBefore) ?? found.at(-1)!) : (found.find(isBehind) ?? found[0]),
    };
  }
}
