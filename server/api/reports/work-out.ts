import type { RequestHandler } from 'express';
import { workOutBody } from '../../contract/contract';
import { reportsOf } from '../../store/reports';
import { checked } from '../fault';
import { knownLayer } from '../looks';
import type { AskedReports } from './asked-reports';

/** Works out the types of the columns above a step over the reports named, or over all that count. */
export function workOutTypes(reports: AskedReports): RequestHandler {
  const { store, pool } = reports.deps;
  return async (request, response) => {
    const { step, locale, reports: named } = checked(workOutBody, request.body, 'What is to be worked out');
    const pipeline = await reports.pipelineIn(request.params);
    knownLayer(pipeline.document, step);
    const all = (await reportsOf(store, pipeline.id)).filter((report) =>
      named ? named.includes(report.id) : report.standing === 'counts',
    );
    const sources = await Promise.all(all.map((report) => reports.taskOf(pipeline, report)));
    response.json(await pool.run('workOut', { document: await reports.documentOf(pipeline), sources, step, locale }));
  };
}
