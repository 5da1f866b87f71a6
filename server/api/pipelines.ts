import { Router, raw } from 'express';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parsePipeline } from '../../core/pipeline/document';
import { withinRoots } from '../folder/roots';
import { publicationOf } from '../store/dataset';
import { addPipeline, allPipelines, deletePipeline, pipelineById, pipelineByName, savePipeline, type StoredPipeline } from '../store/pipelines';
import { reportsOf } from '../store/reports';
import { runById, runsOf } from '../store/runs';
import { fileQuery, newPipelineBody, savedPipelineBody, type PipelineFull, type PipelineSummary } from './contract';
import type { Deps } from './deps';
import { checked, Fault } from './fault';

/** The pipeline of a request's path. */
export async function pipelineOf({ store }: Deps, id: string): Promise<StoredPipeline> {
  const pipeline = /^\d{1,9}$/.test(id) ? await pipelineById(store, Number(id)) : undefined;
  if (!pipeline) throw new Fault('not found', `There is no pipeline ${id}. It may have been deleted.`);
  return pipeline;
}

async function summary({ store, runs }: Deps, pipeline: StoredPipeline): Promise<PipelineSummary> {
  const [reports, publication, lastRuns] = [await reportsOf(store, pipeline.id), await publicationOf(store, pipeline.id), await runsOf(store, pipeline.id, 12)];
  const last = lastRuns.find((run) => run.state !== 'running');
  const detail = last && (await runById(store, last.id));
  const count = (state: string) => detail?.reports.filter((report) => report.state === state).length ?? 0;
  const plural = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
  const misfits = detail?.reports.reduce((sum, report) => sum + report.misfits, 0) ?? 0;
  return {
    id: pipeline.id,
    name: pipeline.document.name,
    folder: pipeline.folder,
    managed: pipeline.managed,
    viewName: pipeline.viewName,
    reports: reports.filter((report) => report.standing === 'counts').length,
    rows: publication?.rows ?? null,
    lastRuns,
    running: runs.underWay(pipeline.id)?.run ?? null,
    needs: [
      ...(last === undefined ? ['Not refreshed yet'] : []),
      ...(last && (last.state === 'failed' || last.state === 'nothing published') ? [last.message ?? `The last refresh ended as ${last.state}`] : []),
      ...(count('failed') > 0 ? [`${plural(count('failed'), 'report', 'reports')} could not be read`] : []),
      ...(count('stale') > 0 ? [`${plural(count('stale'), 'report is', 'reports are')} held at the last good version`] : []),
      ...(misfits > 0 ? [plural(misfits, 'misfit', 'misfits')] : []),
    ],
  };
}

const full = async (deps: Deps, pipeline: StoredPipeline): Promise<PipelineFull> => ({ ...(await summary(deps, pipeline)), document: pipeline.document });

export function pipelinesRouter(deps: Deps): Router {
  const { store, config } = deps;
  const router = Router();
  const uniqueName = async (name: string, but?: number) => {
    const other = await pipelineByName(store, name);
    if (other && other.id !== but) throw new Fault('conflict', `There is a pipeline “${name}” already. Choose another name.`);
  };

  router.get('/', async (_request, response) => {
    const all = [];
    for (const pipeline of await allPipelines(store)) all.push(await summary(deps, pipeline));
    response.json(all);
  });

  router.post('/', async (request, response) => {
    const body = checked(newPipelineBody, request.body, 'The new pipeline');
    const document = parsePipeline(body.document);
    await uniqueName(document.name);
    const managed = body.folder === undefined;
    const folder = managed ? join(config.data, 'dropped', crypto.randomUUID()) : await withinRoots(body.folder!, config.roots);
    if (managed) await mkdir(folder, { recursive: true });
    response.status(201).json(await full(deps, await addPipeline(store, document, folder, managed)));
  });

  router.get('/:id', async (request, response) => {
    response.json(await full(deps, await pipelineOf(deps, request.params.id)));
  });

  router.put('/:id', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const document = parsePipeline(checked(savedPipelineBody, request.body, 'The pipeline').document);
    await uniqueName(document.name, pipeline.id);
    await savePipeline(store, pipeline.id, document, pipeline.folder);
    response.json(await full(deps, await pipelineOf(deps, request.params.id)));
  });

  router.delete('/:id', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const running = deps.runs.underWay(pipeline.id);
    if (running) throw new Fault('conflict', `“${pipeline.document.name}” is being refreshed. Cancel the run first.`);
    await deletePipeline(store, pipeline);
    response.status(204).end();
  });

  router.post('/:id/files', raw({ type: () => true, limit: `${config.uploadLimit}mb` }), async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    if (!pipeline.managed) throw new Fault('conflict', `Files of “${pipeline.document.name}” come from its folder ${pipeline.folder}. Put them there.`);
    const { name } = checked(fileQuery, request.query, 'The file name');
    const bytes = request.body as Buffer;
    if (!Buffer.isBuffer(bytes) || !bytes.subarray(0, 1024).includes('%PDF-')) throw new Fault('bad input', `${name} is not a PDF. Only PDF files can be dropped here.`);
    // Written beside and moved, so that a refresh never sees half a file.
    const temporary = join(pipeline.folder, `.${crypto.randomUUID()}`);
    await writeFile(temporary, bytes);
    await rename(temporary, join(pipeline.folder, name));
    response.status(201).json({ name, size: bytes.length });
  });
  return router;
}
