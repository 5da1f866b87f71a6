import type { RequestHandler } from 'express';
import { reportsOf } from '../../store/reports';
import { whileOpen } from '../looks';
import type { AskedReports } from './asked-reports';

/** Steps are proposed from at most so many reports: more say nothing new, and take as much longer. */
const mostLookedAt = 40;

/** Steps proposed from what the reports print: from all that count, or from so many of them, spread over all. */
export function proposedSteps(reports: AskedReports): RequestHandler {
  const { store, pool } = reports.deps;
  return async (request, response) => {
    const pipeline = await reports.pipelineIn(request.params);
    const counting = (await reportsOf(store, pipeline.id)).filter(({ standing }) => standing === 'counts');
    const each = Math.max(1, Math.ceil(counting.length / mostLookedAt));
    const sources = await Promise.all(
      counting.filter((_, i) => i % each === 0).map((report) => reports.taskOf(pipeline, report)),
    );
    const signal = whileOpen(response);
    response.json(await pool.run('propose', { document: await reports.documentOf(pipeline), sources }, { signal }));
  };
}
