import type { RequestHandler } from 'express';
import { parsePipeline } from '../../../core/pipeline/document';
import { savedPipelineBody } from '../../contract/contract';
import { ChangedMeanwhile, savePipeline } from '../../store/pipelines';
import type { Deps } from '../deps';
import { Fault, checked } from '../fault';
import { pipelineOf } from './pipeline-of';
import { answerWith } from './summary';

/** Saves a new version. `If-Match` names the one that it changes; the second of two tabs is told that there is another since. */
export function saveVersion(deps: Deps): RequestHandler<{ id: string }> {
  const { store, config } = deps;
  return async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const from = /^"(\d{1,9})"$/.exec(request.headers['if-match'] ?? '')?.[1];
    if (from === undefined)
      throw new Fault(
        'version needed',
        'Say which version is changed: If-Match: "5", as `version` of the pipeline has it.',
      );
    const document = parsePipeline(checked(savedPipelineBody, request.body, 'The pipeline').document);
    try {
      const saved = await savePipeline(store, pipeline.id, document, { from: Number(from), who: config.who ?? '' });
      if (saved.document.name !== pipeline.document.name) void deps.sql?.()?.follow();
      await answerWith(deps, response, saved);
    } catch (error) {
      if (!(error instanceof ChangedMeanwhile)) throw error;
      throw new Fault(
        'changed meanwhile',
        `“${pipeline.document.name}” was changed somewhere else since version ${from}: it is at version ${error.now} now. Nothing was saved; look at what is different and save again.`,
      );
    }
  };
}
