import { shapeMarks, type ShapeMarks } from '../../../core/pipeline/shape-marks';
import { layersUntil, lookedAt, type Look } from '../session';

/** Where a step split tables on a page, and which of its lines it made records of. */
export async function marks(task: Look & { page: number; step?: string | undefined }): Promise<ShapeMarks> {
  const { layers, content } = await lookedAt(task, task.step);
  const layer = layersUntil(layers, task.step).at(-1);
  const page = content.pages.find(({ number }) => number === task.page);
  return layer && page ? shapeMarks(layer, task.source.key, page) : { splits: [], records: [] };
}
