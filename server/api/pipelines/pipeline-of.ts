import { type StoredPipeline, pipelineById } from '../../store/pipelines';
import type { Deps } from '../deps';
import { Fault } from '../fault';

/** Can it be the number of a pipeline? */
export const isId = (text: string): boolean => /^\d{1,9}$/.test(text);

/** The pipeline of a request's path. */
export async function pipelineOf({ store }: Deps, id: string): Promise<StoredPipeline> {
  const pipeline = isId(id) ? await pipelineById(store, Number(id)) : undefined;
  if (!pipeline) throw new Fault('not found', `There is no pipeline ${id}. It may have been deleted.`);
  return pipeline;
}
