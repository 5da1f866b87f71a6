import type { Sheet } from '../sheet/sheet';
import type { Layer } from './carry';
import { wordFinder, type WordPlace } from './word-finder';

/** What became of a word of the paper: the cells of the last sheet, the names that it gives, or the step that held it. */
export interface WordFate {
  readonly cells: readonly { readonly row: number; readonly column: string }[];
  /** Columns that the word names. */
  readonly names: readonly string[];
  readonly held: readonly {
    readonly step: string;
    readonly title: string;
    readonly row: number;
    readonly column: string;
    readonly reason: string;
  }[];
  /** The step after which it stands in no cell, where it was not held. */
  readonly gone?: { readonly step: string; readonly title: string; readonly how: 'left out' | 'overwritten' };
  readonly taken: boolean;
}

/** From a word on a page of a report to its cells in the last of the layers, or to the step that held it. */
export function wordFate(layers: readonly Layer[], word: WordPlace): WordFate {
  const hasIn = wordFinder(word);
  const cellsIn = (sheet: Sheet) => {
    const has = hasIn(sheet);
    return sheet.columns.flatMap((column) =>
      [...column.origins.keys()]
        .filter((row) => column.cells[row] !== null && has(column.origins[row]))
        .map((row) => ({ row, column: column.name })),
    );
  };
  const last = layers.at(-1);
  const cells = last ? cellsIn(last.sheet) : [];
  const names = last
    ? last.sheet.columns
        .filter(({ namedBy }) => namedBy !== undefined && hasIn(last.sheet)(namedBy))
        .map(({ name }) => name)
    : [];
  const held = layers.flatMap((each) =>
    cellsIn(each.held.rows).map((cell) => ({
      step: each.id,
      title: each.title,
      ...cell,
      reason: each.held.reasons[cell.row],
    })),
  );
  const taken = layers.length > 0 && cellsIn(layers[0].sheet).length > 0;
  const gone =
    cells.length > 0 || held.length > 0 || !taken
      ? undefined
      : layers.slice(1).find((layer) => cellsIn(layer.sheet).length === 0);
  const leftOut = gone?.leftOut.columns.some((column) => column.origins.some(hasIn(gone.leftOut)));
  return {
    cells,
    names,
    held,
    ...(gone ? { gone: { step: gone.id, title: gone.title, how: leftOut ? 'left out' : 'overwritten' } } : {}),
    taken,
  };
}
