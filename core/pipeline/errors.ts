import { isError } from '../sheet/cell';
import type { Layer } from './carry';

/** An error cell of a sheet, and the step at which the error starts. */
export interface ErrorPlace {
  readonly row: number;
  readonly column: string;
  readonly text: string;
  readonly reason: string;
  readonly page: number;
  readonly step: string;
  readonly title: string;
}

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
        const key = `${column.origins[row]} ${cell.text}`;
        if (!first.has(key)) first.set(key, layer);
      });
  const { sheet } = layers[until];
  return sheet.rows.flatMap(({ page }, row) =>
    sheet.columns.flatMap((column): ErrorPlace[] => {
      const cell = column.cells[row];
      if (!isError(cell)) return [];
      const from = first.get(`${column.origins[row]} ${cell.text}`)!;
      return [{ row, column: column.name, text: cell.text, reason: cell.reason, page, step: from.id, title: from.title }];
    }),
  );
}
