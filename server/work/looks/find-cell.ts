import { findCell as found, soughtFrom, type CellFound } from '../../../core/sheet/find-cell';
import { layersUntil, lookedAt, type Look } from '../session';
import { partOf, type SheetPart } from './sheet';

/** The next cell of a sheet that holds a text. */
export async function findCell(
  task: Look & { step?: string | undefined; of: SheetPart; text: string; row: number; column: number; back: boolean },
): Promise<CellFound> {
  const { layers } = await lookedAt(task, task.step);
  return found(
    partOf(layersUntil(layers, task.step).at(-1), task.of).columns,
    soughtFrom(task.text),
    { row: task.row, column: task.column },
    task.back,
  );
}
