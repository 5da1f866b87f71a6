import type { RequestHandler } from 'express';
import { fileQuery } from '../../contract/contract';
import { keepDropped } from '../../folder/dropped';
import type { Deps } from '../deps';
import { Fault, checked } from '../fault';
import { pipelineOf } from './pipeline-of';

/** A file that is dropped. */
export function dropFile(deps: Deps): RequestHandler<{ id: string }> {
  return async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    if (!pipeline.managed)
      throw new Fault(
        'conflict',
        `Files of “${pipeline.document.name}” come from its folder ${pipeline.folder}. Put them there.`,
      );
    const { name, there } = checked(fileQuery, request.query, 'The file name');
    const bytes = request.body as Buffer;
    if (!Buffer.isBuffer(bytes) || !bytes.subarray(0, 1024).includes('%PDF-'))
      throw new Fault('bad input', `${name} is not a PDF. Only PDF files can be dropped here.`);
    response.status(201).json({ name: await keepDropped(pipeline.folder, name, bytes, there), size: bytes.length });
  };
}
