import { errorsOf } from '../../../core/pipeline/errors';
import type { ErrorsAnswer } from '../../contract/answers';
import { layersUntil, lookedAt, type Look } from '../session';

/** The error cells of a sheet that are told one by one. */
const mostErrors = 1000;

/** The error cells after a step (or at the end), each with the step at which it starts. */
export async function errors(task: Look & { step?: string | undefined }): Promise<ErrorsAnswer> {
  const { layers } = await lookedAt(task, task.step);
  const asked = layersUntil(layers, task.step);
  const found = asked.length === 0 ? [] : errorsOf(asked, asked.length - 1);
  return { count: found.length, errors: found.slice(0, mostErrors) };
}
