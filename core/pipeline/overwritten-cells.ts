import { madeColumn } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import type { Cell } from '../values/cell';
import type { Layer } from './carry';

/** The cells that a layer overwrote, one a row: where in its sheet, what stood there, what stands there now, and why. */
export function overwrittenCells({ overwritten, sheet }: Pick<Layer, 'overwritten' | 'sheet'>): Sheet {
  const cells = overwritten.flatMap(({ column, rows, old, why }) => {
    const now = sheet.columns.find((each) => each.name === column)?.cells;
    return rows.map((row, i) => ({ row, column, old: old[i], now: now?.[row] ?? null, why }));
  });
  cells.sort((a, b) => a.row - b.row);
  const told = (name: string, of: (cell: (typeof cells)[number]) => Cell) => madeColumn(name, cells.map(of));
  return {
    columns: [
      told('Row', ({ row }) => row + 1),
      told('Column', ({ column }) => column),
      told('Was', ({ old }) => old),
      told('Is', ({ now }) => now),
      told('Why', ({ why }) => why),
    ],
    rows: sheet.rows.at(cells.map(({ row }) => row)),
  };
}
