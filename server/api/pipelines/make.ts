import type { RequestHandler } from 'express';
import { cp, mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parsePipeline } from '../../../core/pipeline/document';
import { newPipelineBody } from '../../contract/contract';
import { folderWithinRoots } from '../../folder/roots';
import { droppedIn } from '../../setup/config';
import { demoBeside } from '../../setup/demo-beside';
import { addPipeline } from '../../store/pipelines';
import type { Deps } from '../deps';
import { Fault, checked } from '../fault';
import { answerWith } from './summary';

/** A new pipeline, over a folder or over files that are dropped. */
export function makePipeline(deps: Deps): RequestHandler {
  const { store, config } = deps;
  return async (request, response) => {
    const body = checked(newPipelineBody, request.body, 'The new pipeline');
    const document = parsePipeline(body.document);
    const managed = body.folder === undefined;
    const folder = managed
      ? join(droppedIn(config.data), crypto.randomUUID())
      : await folderWithinRoots(body.folder!, config.roots);
    const pipeline = await addPipeline(store, document, folder, { managed, who: config.who ?? '' });
    if (managed) await mkdir(folder, { recursive: true });
    await answerWith(deps, response.status(201), pipeline);
  };
}

/** The demo, with reports of its own to try things on. */
export function makeDemo(deps: Deps): RequestHandler {
  const { store, config } = deps;
  return async (_request, response) => {
    const text = await readFile(join(demoBeside, 'landing-sheets.sieve.json'), 'utf8').catch(() => {
      throw new Fault(
        'not found',
        'The demo does not lie beside this program. It comes with the source: see the folder “demo” there.',
      );
    });
    const folder = join(droppedIn(config.data), crypto.randomUUID());
    const pipeline = await addPipeline(store, parsePipeline(JSON.parse(text)), folder, {
      managed: true,
      who: config.who ?? '',
    });
    await cp(join(demoBeside, 'landing-sheets'), folder, { recursive: true });
    await answerWith(deps, response.status(201), pipeline);
  };
}
