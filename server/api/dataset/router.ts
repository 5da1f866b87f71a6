import { Router, type Request } from 'express';
import type { Deps } from '../deps';
import type { Downloads } from '../downloads';
import { addLooks } from '../looks';
import { findCell, measureCells } from './cells';
import { column } from './column';
import { cellEvidence, totalEvidence } from './evidence';
import { datasetFile } from './file';
import { madeOf } from './made-of';
import { Published } from './published';
import { reconciled } from './reconciled';
import { selectedRows } from './selected';
import { summary, summaryWorkbook } from './summary';
import { traceCell } from './trace';
import { datasetWindow } from './window';

/** The published dataset of a pipeline, for whoever works on it. */
export function datasetRouter(deps: Deps, downloads: Downloads): Router {
  const datasets = new Published(deps, downloads);
  const router = Router({ mergeParams: true });
  router.get('/dataset', datasetWindow(datasets));
  router.get('/dataset/selected', selectedRows(datasets));
  router.post('/dataset/measure', measureCells(datasets));
  router.post('/dataset/find-cell', findCell(datasets));
  router.post('/dataset/summary', summary(datasets));
  router.post('/dataset/summary.xlsx', summaryWorkbook(datasets));
  router.get('/dataset/column', column(datasets));
  router.get('/dataset.:extension', datasetFile(datasets));
  router.get('/dataset/trace', traceCell(datasets));
  router.get('/dataset/reconciled', reconciled(datasets));
  router.get('/dataset/evidence', cellEvidence(datasets));
  router.get('/dataset/evidence/total', totalEvidence(datasets));
  router.get('/dataset/made-of', madeOf(datasets));
  const looks = Router({ mergeParams: true });
  addLooks(looks, deps.pool, async (request: Request) => {
    const { report } = request.params as { report: string };
    const { version: _, ...look } = await datasets.lookAt(await datasets.pipelineIn(request.params), Number(report));
    return look;
  });
  router.use('/dataset/reports', looks);
  return router;
}
