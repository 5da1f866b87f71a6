import { cellText, isBlank, type Cell } from '../values/cell';
import { plainNumber } from '../values/plain-number';
import type { Column } from './column';

/** What a text that is looked for is compared as: numbers without their groups and without zeros that say nothing. */
export interface Sought {
  readonly text: string;
  /** The digits, where a number is looked for. */
  readonly digits?: string;
}

export function soughtFrom(text: string): Sought {
  const trimmed = text.trim().toLowerCase();
  const bare = trimmed.replaceAll(',', '').replace('−', '-');
  return {
    text: trimmed,
    ...(/^[-+]?\d*\.?\d+$/.test(bare) ? { digits: bare.includes('.') ? bare.replace(/\.?0+$/, '') || '0' : bare } : {}),
  };
}

/** Whether a cell shows what is looked for, whatever its case; numbers are found as they are shown and as they are kept. */
export function holds(cell: Cell, { text, digits }: Sought): boolean {
  if (isBlank(cell) || text === '') return false;
  if (typeof cell === 'number') return digits !== undefined && plainNumber(cell).includes(digits);
  return cellText(cell).toLowerCase().includes(text);
}

export interface CellFound {
  /** How many cells hold it. */
  readonly count: number;
  /** The next one; none where no cell holds it. */
  readonly place?: { readonly row: number; readonly column: number };
}

/** The next cell that holds a text, line by line from a place on and round the end, and how many there are. */
export function findCell(
  columns: readonly Pick<Column, 'cells'>[],
  sought: Sought,
  from: { readonly row: number; readonly column: number },
  back = false,
): CellFound {
  const rows = columns[0]?.cells.length ?? 0;
  const width = columns.length;
  const start = from.row * width + from.column;
  let count = 0;
  let next: number | undefined;
  let round: number | undefined;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < width; column++) {
      if (!holds(columns[column].cells[row], sought)) continue;
      count++;
      const at = row * width + column;
      if (back ? at < start : at > start) next = back ? at : (next ?? at);
      // The other way round the end.
      else if (back || round === undefined) round = at;
    }
  const at = next ?? round;
  return { count, ...(at === undefined ? {} : { place: { row: Math.floor(at / width), column: at % width } }) };
}
