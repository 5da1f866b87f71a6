import { isError, type Cell } from '../../core/sheet/cell';
import { cellText } from '../../core/sheet/cell';
import type { Sheet } from '../../core/sheet/sheet';
import { plainNumber } from '../../core/values/plain-number';
import type { Layer } from '../../core/pipeline/carry';
import { batchRows, csvCell, type LoadedPart } from '../store/publish';

const cellCsv = (cell: Cell): string => (isError(cell) ? '' : typeof cell === 'number' ? plainNumber(cell) : csvCell(cell));

/**
 * Rows as CSV for the data table, in batches.
 * @param part id of the part that the rows are loaded under
 * @param reportId database id of a report by its key
 */
export function rowBatches(sheet: Sheet, part: number, reportId: (key: string) => number): string[] {
  const batches: string[] = [];
  for (let start = 0; start < sheet.rows.length; start += batchRows) {
    const lines: string[] = [];
    for (let row = start; row < Math.min(start + batchRows, sheet.rows.length); row++) {
      const mark = sheet.rows[row];
      let line = `${part},${row},${reportId(mark.report)},${mark.ordinals[0] ?? row},${mark.page}`;
      for (const column of sheet.columns) line += `,${cellCsv(column.cells[row])}`;
      lines.push(line);
    }
    batches.push(`${lines.join('\n')}\n`);
  }
  return batches;
}

export function misfitsOf(sheet: Sheet): LoadedPart['misfits'] {
  return sheet.columns.flatMap((column) =>
    column.cells.flatMap((cell, ordinal) => (isError(cell) ? [{ ordinal, heading: column.name, text: cell.text, reason: cell.reason }] : [])),
  );
}

/** The printed totals that steps kept, with their texts by column. */
export function totalsOf(layers: readonly Layer[]): LoadedPart['totals'] {
  return layers
    .filter(({ held }) => held.kept === 'totals')
    .flatMap(({ id, held }) =>
      held.rows.rows.map((mark, row) => ({
        step: id,
        page: mark.page,
        reason: held.reasons[row],
        cells: Object.fromEntries(held.rows.columns.flatMap((column) => (column.cells[row] === null ? [] : [[column.name, cellText(column.cells[row])]]))),
      })),
    );
}
