import type { RequestHandler } from 'express';
import { lookAtFolder } from '../../runs/look-at-folder';
import { reportsOf } from '../../store/reports';
import { whileOpen } from '../looks';
import type { AskedReports } from './asked-reports';

/** The reports as the folder was when it was looked at last. */
export function listReports(reports: AskedReports): RequestHandler {
  const { store } = reports.deps;
  return async (request, response) => {
    response.json(await reportsOf(store, (await reports.pipelineIn(request.params)).id));
  };
}

/** Looks at the folder anew: which files are there, and what becomes of each. */
export function lookAtFolderNow(reports: AskedReports): RequestHandler {
  const { store, pool } = reports.deps;
  return async (request, response) => {
    response.json(
      await lookAtFolder(store, pool, await reports.pipelineIn(request.params), reports.deps.cacheFolder, {
        roots: reports.deps.config.roots,
        signal: whileOpen(response),
      }),
    );
  };
}
