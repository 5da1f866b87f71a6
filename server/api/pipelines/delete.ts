import type { RequestHandler } from 'express';
import { removeDropped } from '../../folder/dropped';
import { isBelow } from '../../folder/roots';
import { droppedIn } from '../../setup/config';
import { deletePipeline } from '../../store/pipelines';
import type { Deps } from '../deps';
import { Fault } from '../fault';
import { pipelineOf } from './pipeline-of';

/** Deletes a pipeline, its dataset, and the files that were dropped for it. */
export function deleteWhole(deps: Deps): RequestHandler<{ id: string }> {
  const { store, config } = deps;
  return async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const running = deps.runs.underWay(pipeline.id);
    if (running) throw new Fault('conflict', `“${pipeline.document.name}” is being refreshed. Cancel the run first.`);
    await deletePipeline(store, pipeline);
    void deps.sql?.()?.follow();
    // Never those of another data folder, of which this one may be a copy.
    if (pipeline.managed && isBelow(pipeline.folder, droppedIn(config.data))) await removeDropped(pipeline.folder);
    response.status(204).end();
  };
}
