import { Router } from 'express';
import type { Deps } from '../deps';
import { addLooks } from '../looks';
import { AskedReports } from './asked-reports';
import { checksThatHold } from './checks';
import { findText } from './find';
import { intakeEvents } from './intake';
import { listReports, lookAtFolderNow } from './list';
import { fileItself, pageOf, tablesOf } from './one';
import { proposedSteps } from './proposals';
import { workOutTypes } from './work-out';

/** The reports in the folder of a pipeline, and looks at each. */
export function reportsRouter(deps: Deps): Router {
  const reports = new AskedReports(deps);
  const router = Router({ mergeParams: true });
  router.get('/', listReports(reports));
  router.post('/', lookAtFolderNow(reports));
  router.get('/events', intakeEvents(reports));
  router.get('/find', findText(reports));
  router.get('/:report/tables', tablesOf(reports));
  router.get('/:report/file', fileItself(reports));
  router.get('/:report/pages/:page', pageOf(reports));
  router.post('/work-out', workOutTypes(reports));
  router.get('/proposals', proposedSteps(reports));
  router.get('/checks', checksThatHold(reports));
  addLooks(router, deps.pool, (request) => reports.asked(request.params));
  return router;
}
