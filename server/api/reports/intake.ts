import type { RequestHandler } from 'express';
import type { IntakeEvent } from '../../contract/answers';
import { OutsideRoots } from '../../folder/roots';
import { reportsOf } from '../../store/reports';
import { inParallel } from '../../work/in-parallel';
import { Stopping } from '../../work/stopping';
import { eventsTo } from '../events';
import { Fault } from '../fault';
import { type AskedReports, isIssue } from './asked-reports';

/** Reads and carries all reports that can be looked at, as server-sent events; closing the connection cancels what is left. */
export function intakeEvents(reports: AskedReports): RequestHandler {
  const { store, pool } = reports.deps;
  return async (request, response) => {
    const pipeline = await reports.pipelineIn(request.params);
    const document = await reports.documentOf(pipeline);
    const all = (await reportsOf(store, pipeline.id)).filter(isIssue);
    const { signal, send, end } = eventsTo<IntakeEvent>(response);
    await inParallel(all, pool.threads, async (report) => {
      if (signal.aborted) return;
      try {
        const source = await reports.taskOf(pipeline, report);
        const summary = await pool.run(
          'summary',
          { document, source },
          {
            signal,
            progress: ({ done, total, found }) =>
              send({ kind: 'reading', report: report.id, page: done, pages: total, found }),
          },
        );
        send({ kind: 'report', report: report.id, summary });
      } catch (error) {
        if (signal.aborted || error instanceof Stopping) return;
        reports.deps.log.warn(error);
        const came =
          error instanceof Fault || error instanceof OutsideRoots
            ? error.message
            : 'a fault of the reader; the log says which';
        send({
          kind: 'report',
          report: report.id,
          summary: {
            unreadable: {
              kind: 'not read',
              report: report.path,
              expected: 'a file that can be read',
              came,
              remedy: 'The other reports are not touched by it.',
            },
          },
        });
      }
    });
    send({ kind: 'done' });
    end();
  };
}
