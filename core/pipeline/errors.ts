import type { Column } from '../sheet/column';
import { placesKey } from '../sheet/origin';
import type { Sheet } from '../sheet/sheet';
import { isError, type ErrorCell } from '../values/cell';
import type { Layer } from './carry';

/** An error cell of a sheet, and the step at which the error starts. */
export interface ErrorPlace {
  readonly row: number;
  readonly column: string;
  readonly text: string;
  readonly expected: string;
  readonly page: number;
  readonly step: string;
  readonly title: string;
}

/** An error cell by its words, which are the same in every layer, and in every book. */
const keyOf = ({ rows }: Sheet, { origins }: Column, row: number, { text }: ErrorCell): string =>
  `${placesKey(rows.book.origins.places(origins[row]))} ${text}`;

/**
 * The error cells of a layer, row by row. An error starts at the first layer in which the same words of the paper are an
 * error cell with the same text; later steps may have moved or renamed it.
 */
export function errorsOf(layers: readonly Layer[], until: number): ErrorPlace[] {
  const first = new Map<string, Layer>();
  for (const layer of layers.slice(0, until + 1))
    for (const column of layer.sheet.columns)
      column.cells.forEach((cell, row) => {
        if (!isError(cell)) return;
        const key = keyOf(layer.sheet, column, row, cell);
        if (!first.has(key)) first.set(key, layer);
      });
  const { sheet } = layers[until];
  return sheet.rows
    .map((row) =>
      sheet.columns.flatMap((column): ErrorPlace[] => {
        const cell = column.cells[row];
        if (!isError(cell)) return [];
        const from = first.get(keyOf(sheet, column, row, cell))!;
        return [
          {
            row,
            column: column.name,
            text: cell.text,
            expected: cell.expected,
            page: sheet.rows.page(row),
            step: from.id,
            title: from.title,
          },
        ];
      }),
    )
    .flat();
}
