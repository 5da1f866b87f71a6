import { columnMeasure, measured, stretchesByColumn, type CellRange, type Measured } from '../../../core/sheet/measure';
import { layersUntil, lookedAt, type Look } from '../session';
import { partOf, type SheetPart } from './sheet';

/** What chosen cells of a sheet hold: how many, and sum, mean, least and most of their numbers. */
export async function measure(
  task: Look & { step?: string | undefined; of: SheetPart; ranges: readonly CellRange[] },
): Promise<Measured> {
  const { layers } = await lookedAt(task, task.step);
  const { columns } = partOf(layersUntil(layers, task.step).at(-1), task.of);
  return measured(
    [...stretchesByColumn(task.ranges)].flatMap(([at, stretches]) =>
      columns[at] ? [columnMeasure(columns[at], stretches)] : [],
    ),
  );
}
