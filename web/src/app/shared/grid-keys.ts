import type { GridCellPlace } from './grid-source';

/** Where a key leads from a place of a grid, which may lie beyond its ends; none for a key that leads nowhere. */
export function placeBy(key: string, from: GridCellPlace, { rows, columns, page, control }: { rows: number; columns: number; page: number; control: boolean }): GridCellPlace | undefined {
  switch (key) {
    case 'ArrowDown':
      return { ...from, row: from.row + 1 };
    case 'ArrowUp':
      return { ...from, row: from.row - 1 };
    case 'ArrowRight':
      return { ...from, column: from.column + 1 };
    case 'ArrowLeft':
      return { ...from, column: from.column - 1 };
    case 'PageDown':
      return { ...from, row: from.row + page };
    case 'PageUp':
      return { ...from, row: Math.max(0, from.row - page) };
    case 'Home':
      return control ? { row: 0, column: 0 } : { ...from, column: 0 };
    case 'End':
      return control ? { row: rows - 1, column: columns - 1 } : { ...from, column: columns - 1 };
    default:
      return undefined;
  }
}
