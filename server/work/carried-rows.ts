import type { Tie } from '../../core/ties/tied';
import type { Layer } from '../../core/pipeline/carry';
import { rowSpans, type RowId } from '../../core/sheet/row';
import type { Sheet } from '../../core/sheet/sheet';
import { cellText, isError, type Cell } from '../../core/values/cell';
import { plainNumber } from '../../core/values/plain-number';
import { csvCell, type LoadedRows } from '../store/publish';
import { batchRows } from '../store/store';

const cellCsv = (cell: Cell): string =>
  isError(cell) ? '' : typeof cell === 'number' ? plainNumber(cell) : csvCell(cell);

/**
 * Rows as CSV for the data table, in batches.
 * @param part id of the part that the rows are loaded under
 * @param reportId database id of a report by its key
 */
export function rowBatches({ columns, rows }: Sheet, part: number, reportId: (key: string) => number): string[] {
  const batches: string[] = [];
  for (let start = 0; start < rows.length; start += batchRows) {
    const lines: string[] = [];
    for (let row = start; row < Math.min(start + batchRows, rows.length); row++) {
      const { report, table, ordinal } = rows.id(row);
      let line = `${part},${row},${reportId(report)},${csvCell(table)},${ordinal},${rows.page(row)}`;
      for (const column of columns) line += `,${cellCsv(column.cells[row])}`;
      lines.push(line);
    }
    batches.push(`${lines.join('\n')}\n`);
  }
  return batches;
}

export function misfitsOf({ columns }: Sheet): LoadedRows['misfits'] {
  return columns.flatMap((column) =>
    column.cells.flatMap((cell, ordinal) =>
      isError(cell) ? [{ ordinal, heading: column.name, text: cell.text, expected: cell.expected }] : [],
    ),
  );
}

/** The printed totals that steps kept, with their texts by column and the rows that each stands for. */
export function totalsOf(
  layers: readonly Pick<Layer, 'id' | 'held'>[],
  ties: readonly Tie[] = [],
): LoadedRows['totals'] {
  const rowKey = (step: string, { report, table, ordinal }: RowId) => JSON.stringify([step, report, table, ordinal]);
  const tiesOf = new Map<string, Tie[]>();
  for (const tie of ties)
    tiesOf.set(rowKey(tie.step, tie.row), [...(tiesOf.get(rowKey(tie.step, tie.row)) ?? []), tie]);
  return layers
    .filter(({ held }) => held.kept === 'totals')
    .flatMap(
      ({
        id,
        held: {
          rows: { columns, rows },
          reasons,
          covers = [],
        },
      }) =>
        rows.map((row) => ({
          step: id,
          row: rows.id(row),
          page: rows.page(row),
          reason: reasons[row],
          level: covers[row]?.level ?? 1,
          differs: covers[row]?.differs ?? [],
          ties: (tiesOf.get(rowKey(id, rows.id(row))) ?? []).map(({ step: _, row: __, page: ___, ...tie }) => tie),
          covers: rowSpans(rows.book, covers[row]?.rows ?? []),
          cells: Object.fromEntries(
            columns.flatMap((column) =>
              column.cells[row] === null ? [] : [[column.name, cellText(column.cells[row])]],
            ),
          ),
        })),
    );
}
