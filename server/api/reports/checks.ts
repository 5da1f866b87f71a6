import type { RequestHandler } from 'express';
import { proposedChecks } from '../../../core/checks/propose';
import { reportsOf } from '../../store/reports';
import { inParallel } from '../../work/in-parallel';
import { Stopping } from '../../work/stopping';
import { whileOpen } from '../looks';
import type { AskedReports } from './asked-reports';

/** Checks that hold in all reports so far, and are not there yet. */
export function checksThatHold(reports: AskedReports): RequestHandler {
  const { store, pool } = reports.deps;
  return async (request, response) => {
    const pipeline = await reports.pipelineIn(request.params);
    const document = await reports.documentOf(pipeline);
    const all = (await reportsOf(store, pipeline.id)).filter(({ standing }) => standing === 'counts');
    const signal = whileOpen(response);
    const facts = await inParallel(all, pool.threads, async (report) => {
      const answer = await pool
        .run('facts', { document, source: await reports.taskOf(pipeline, report) }, { signal })
        .catch((error: Error) => {
          if (error instanceof Stopping) throw error;
          if (!signal.aborted) reports.deps.log.warn(error);
          return undefined;
        });
      return answer && 'facts' in answer ? [answer.facts] : [];
    });
    response.json(proposedChecks(facts.flat(), pipeline.document.checks));
  };
}
