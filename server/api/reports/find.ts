import type { RequestHandler } from 'express';
import type { FindEvent } from '../../contract/answers';
import { findQuery } from '../../contract/contract';
import { reportsOf } from '../../store/reports';
import { inParallel } from '../../work/in-parallel';
import { Stopping } from '../../work/stopping';
import { eventsTo } from '../events';
import { checked } from '../fault';
import { type AskedReports, isIssue } from './asked-reports';

/** Looks for a text on all pages of all reports that can be read, as server-sent events. */
export function findText(reports: AskedReports): RequestHandler {
  const { store, pool } = reports.deps;
  return async (request, response) => {
    const { text } = checked(findQuery, request.query, 'The search');
    const pipeline = await reports.pipelineIn(request.params);
    const all = (await reportsOf(store, pipeline.id)).filter(isIssue);
    const { signal, send, end } = eventsTo<FindEvent>(response);
    await inParallel(all, pool.threads, async (report) => {
      if (signal.aborted) return;
      try {
        const answer = await pool.run('find', { source: await reports.taskOf(pipeline, report), text }, { signal });
        // A report that cannot be read is named by the intake; it has no text to look through.
        if ('hits' in answer && answer.hits.length > 0) send({ kind: 'hits', report: report.id, hits: answer.hits });
      } catch (error) {
        if (!signal.aborted && !(error instanceof Stopping)) reports.deps.log.warn(error);
      }
    });
    send({ kind: 'done' });
    end();
  };
}
