import { wordFate, type WordFate } from '../../../core/pipeline/word-fate';
import { layersUntil, lookedAt, type Look } from '../session';

/** From a word on a page to its cells after `step` (or at the end), or to the step that held it. */
export async function word(task: Look & { page: number; word: number; step?: string | undefined }): Promise<WordFate> {
  const { layers } = await lookedAt(task, task.step);
  return wordFate(layersUntil(layers, task.step), { report: task.source.key, page: task.page, word: task.word });
}
