import type { RowId } from '../sheet/row';
import { cellText } from '../values/cell';
import type { Layer } from './carry';
import { wordFinder, type WordPlace } from './word-finder';

/** A cell as a layer left it. */
export interface PassedCell {
  readonly layer: Layer;
  readonly column: string;
  /** Its place in the sheet of the layer. */
  readonly row: number;
  readonly text: string;
}

/**
 * The cells that a word of the paper stood in, layer by layer, down to the last: where several hold it, the one in the row that
 * the others came from.
 * @param rowIn the taken row that the value belongs to
 * @param name of its column in the end
 */
export function passedThrough(
  layers: readonly Layer[],
  word: WordPlace,
  rowIn: Pick<RowId, 'table' | 'ordinal'>,
  name: string,
): PassedCell[] {
  const hasIn = wordFinder(word);
  return layers.flatMap((layer): PassedCell[] => {
    const holds = hasIn(layer.sheet);
    const found: PassedCell[] = [];
    for (const column of layer.sheet.columns)
      for (let row = 0; row < column.cells.length; row++)
        if (column.cells[row] !== null && holds(column.origins[row]))
          found.push({ layer, column: column.name, row, text: cellText(column.cells[row]) });
    const own = found.filter(({ row }) =>
      layer.sheet.rows.sources(row).some(({ table, ordinal }) => table === rowIn.table && ordinal === rowIn.ordinal),
    );
    const among = own.length > 0 ? own : found;
    return among.length === 0 ? [] : [among.find(({ column }) => column === name) ?? among[0]];
  });
}

/** Of the cells that a value passed through those in which it was changed, or stood under another name. */
export const whereChanged = (cells: readonly PassedCell[]): PassedCell[] =>
  cells.filter(({ text, column }, i) => i === 0 || text !== cells[i - 1].text || column !== cells[i - 1].column);
