import type { RequestHandler } from 'express';
import { folderBody } from '../../contract/contract';
import { folderWithinRoots } from '../../folder/roots';
import { moveToFolder } from '../../store/pipelines';
import type { Deps } from '../deps';
import { Fault, checked } from '../fault';
import { pipelineOf } from './pipeline-of';
import { answerWith } from './summary';

/** The reports are in another folder: those that are there under the same names or with the same content stay the same reports. */
export function moveFolder(deps: Deps): RequestHandler<{ id: string }> {
  const { store, config } = deps;
  return async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    if (pipeline.managed)
      throw new Fault(
        'conflict',
        `The files of “${pipeline.document.name}” were dropped; they have a folder of their own.`,
      );
    const { folder } = checked(folderBody, request.body, 'The folder');
    await moveToFolder(store, pipeline.id, await folderWithinRoots(folder, config.roots));
    await answerWith(deps, response, await pipelineOf(deps, request.params.id));
  };
}
