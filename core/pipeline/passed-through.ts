import type { Place } from '../sheet/origin';
import type { Sheet } from '../sheet/sheet';
import { cellText } from '../values/cell';
import type { Layer } from './carry';

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
 */
export function passedThrough(layers: readonly Layer[], word: { readonly report: string; readonly page: number; readonly word: number }, rowIn: { readonly table: string; readonly ordinal: number }, last: { readonly column: string }): PassedCell[] {
  const cells = layers.flatMap((layer): PassedCell[] => {
    const holds = holding(layer.sheet, word);
    const found: PassedCell[] = [];
    for (const column of layer.sheet.columns)
      for (let row = 0; row < column.cells.length; row++) if (column.cells[row] !== null && holds(column.origins[row])) found.push({ layer, column: column.name, row, text: cellText(column.cells[row]) });
    const own = found.filter(({ row }) => layer.sheet.rows.sources(row).some(({ table, ordinal }) => table === rowIn.table && ordinal === rowIn.ordinal));
    const among = own.length > 0 ? own : found;
    return among.length === 0 ? [] : [among.find(({ column }) => column === last.column) ?? among[0]];
  });
  return cells;
}

/** Does an origin of a sheet hold this word? Each is looked at once. */
function holding({ rows: { book } }: Sheet, { report, page, word }: { report: string; page: number; word: number }): (origin: number) => boolean {
  const known = new Map<number, boolean>();
  const has = (place: Place) => place.report === report && place.page === page && place.words.includes(word);
  return (origin) => {
    let own = known.get(origin);
    if (own === undefined) known.set(origin, (own = origin >= 0 && book.origins.places(origin).some(has)));
    return own;
  };
}

/** Of the cells that a value passed through those in which it was changed, or stood under another name. */
export const whereChanged = (cells: readonly PassedCell[]): PassedCell[] => cells.filter(({ text, column }, i) => i === 0 || text !== cells[i - 1].text || column !== cells[i - 1].column);
