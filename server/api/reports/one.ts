import type { RequestHandler } from 'express';
import { Fault, readable } from '../fault';
import type { AskedReports } from './asked-reports';

/** All tables found in a report. */
export function tablesOf(reports: AskedReports): RequestHandler {
  const { pool } = reports.deps;
  return async (request, response) => {
    const { source } = await reports.asked(request.params);
    response.json(readable(await pool.run('read', { source })));
  };
}

/** The file as it lies in the folder. */
export function fileItself(reports: AskedReports): RequestHandler {
  return async (request, response) => {
    const { source } = await reports.asked(request.params);
    response.type('application/pdf').setHeader('ETag', `"${source.sha256}"`);
    response.sendFile(source.file!, { dotfiles: 'allow', acceptRanges: true });
  };
}

/** One page as it was read. */
export function pageOf(reports: AskedReports): RequestHandler {
  const { pool } = reports.deps;
  return async (request, response) => {
    const { source } = await reports.asked(request.params);
    const { page: number } = request.params as { page: string };
    const answer = readable(await pool.run('page', { source, number: Number(number) }));
    if (!answer.page)
      throw new Fault('not found', `${source.path} has no readable page ${number}; it has ${answer.pageCount} pages.`);
    response.json(answer);
  };
}
