import { countsOf, toldProblems } from '../../../core/pipeline/told';
import type { LayersAnswer } from '../../contract/answers';
import { lookedAt, type Look } from '../session';

/** The counts of all layers, and the problems of all steps. */
export async function layers(task: Look): Promise<LayersAnswer> {
  const { layers: all, problems } = await lookedAt(task);
  return {
    layers: countsOf(all),
    partial: all.find((each) => each.partial)?.partial ?? [],
    problems: toldProblems(problems),
  };
}
