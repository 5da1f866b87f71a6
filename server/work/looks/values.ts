import { valueCounts, type PrintSource, type ValueCounts } from '../../../core/pipeline/value-counts';
import type { ColumnChoice } from '../../../core/steps/column-choice';
import { lookedAt, type Look } from '../session';

/** The different values in some columns of the sheet above a step, or what is printed elsewhere for its rows. */
export async function values(task: Look & { step: string; of: ColumnChoice | PrintSource }): Promise<ValueCounts> {
  const { layers, paper } = await lookedAt(task, task.step);
  const at = layers.findIndex((layer) => layer.id === task.step);
  return valueCounts(layers[at < 0 ? layers.length - 1 : Math.max(0, at - 1)].sheet, paper, task.of);
}
