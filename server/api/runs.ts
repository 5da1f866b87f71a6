import { Router } from 'express';
import { runById, runsOf } from '../store/runs';
import type { RunEvent } from '../contract/answers';
import type { Deps } from './deps';
import { eventsTo } from './events';
import { changedCellsOf } from '../store/changed-cells';
import { runBody, windowQuery } from '../contract/contract';
import { checked, Fault } from './fault';
import { pipelineOf } from './pipelines/pipeline-of';

export function pipelineRunsRouter(deps: Deps): Router {
  const router = Router({ mergeParams: true });
  const pipelineIn = (params: unknown) => pipelineOf(deps, (params as { id: string }).id);

  router.get('/', async (request, response) => {
    response.json(await runsOf(deps.store, (await pipelineIn(request.params)).id));
  });

  router.post('/', async (request, response) => {
    const { letGo } = checked(runBody, request.body ?? {}, 'The refresh');
    const { run } = await deps.runs.start((await pipelineIn(request.params)).id, { letGo });
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

  /** What it published otherwise because the program is another. */
  router.get('/:run/changed', async (request, response) => {
    const { run } = await found(request.params.run);
    const { start, count } = checked(windowQuery, request.query, 'The window');
    response.json(await changedCellsOf(deps.store, run.id, start, count));
  });

  router.post('/:run/cancel', async (request, response) => {
    const { run } = await found(request.params.run);
    if (!deps.runs.cancel(run.id)) throw new Fault('conflict', `Run ${run.id} has ended already.`);
    response.status(202).json({ run: run.id });
  });

  /** Server-sent events: `progress` while it runs, then one `ended`. */
  router.get('/:run/events', async (request, response) => {
    const { run } = await found(request.params.run);
    const { signal, send, end } = eventsTo<RunEvent>(response);
    const hear = (event: RunEvent) => {
      send(event);
      if (event.kind === 'ended') end();
    };
    const stop = deps.runs.follow(run.id, hear);
    if (stop) signal.addEventListener('abort', stop);
    else {
      const { run: ended } = await found(request.params.run);
      hear({ kind: 'ended', state: ended.state, notes: ended.notes });
    }
  });
  return router;
}
