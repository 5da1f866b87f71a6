import type { RequestHandler } from 'express';
import { allPipelines } from '../../store/pipelines';
import type { Deps } from '../deps';
import { pipelineOf } from './pipeline-of';
import { answerWith, summary } from './summary';

/** All pipelines, each at a glance. */
export function listPipelines(deps: Deps): RequestHandler {
  const { store } = deps;
  return async (_request, response) => {
    const all = [];
    for (const pipeline of await allPipelines(store)) all.push(await summary(deps, pipeline));
    response.json(all);
  };
}

/** One pipeline whole. */
export function onePipeline(deps: Deps): RequestHandler<{ id: string }> {
  return async (request, response) => {
    await answerWith(deps, response, await pipelineOf(deps, request.params.id));
  };
}
