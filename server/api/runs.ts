import { Router } from 'express';
import { runById, runsOf } from '../store/runs';
import type { Deps } from './deps';
import { Fault } from './fault';
import { pipelineOf } from './pipelines';

export function pipelineRunsRouter(deps: Deps): Router {
  const router = Router({ mergeParams: true });
  const idOf = (params: unknown) => (params as { id: string }).id;

  router.get('/', async (request, response) => {
    const pipeline = await pipelineOf(deps, idOf(request.params));
    response.json(await runsOf(deps.store, pipeline.id));
  });

  router.post('/', async (request, response) => {
    const pipeline = await pipelineOf(deps, idOf(request.params));
    const { run } = await deps.runs.start(pipeline.id);
    response.status(202).location(`/api/runs/${run}`).json({ run });
  });
  return router;
}

export function runsRouter(deps: Deps): Router {
  const router = Router();
  const found = async (id: string) => {
    const run = /^\d{1,9}$/.test(id) ? await runById(deps.store, Number(id)) : undefined;
    if (!run) throw new Fault('not found', `There is no run ${id}.`);
    return run;
  };

  router.get('/:run', async (request, response) => {
    response.json(await found(request.params.run));
  });

  router.post('/:run/cancel', async (request, response) => {
    const { run } = await found(request.params.run);
    if (!deps.runs.cancel(run.id)) throw new Fault('conflict', `Run ${run.id} has ended already.`);
    response.status(202).json({ run: run.id });
  });

  /** Server-sent events: `progress` while it runs, then one `ended`. */
  router.get('/:run/events', async (request, response) => {
    const { run } = await found(request.params.run);
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    const send = (event: { kind: string }) => response.write(`event: ${event.kind}\ndata: ${JSON.stringify(event)}\n\n`);
    const stop = deps.runs.follow(run.id, (event) => {
      send(event);
      if (event.kind === 'ended') response.end();
    });
    if (stop) response.on('close', stop);
    else {
      const { run: ended } = await found(request.params.run);
      send({ kind: 'ended', ...{ state: ended.state, message: ended.message } });
      response.end();
    }
  });
  return router;
}
