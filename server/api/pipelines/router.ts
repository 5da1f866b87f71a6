import { Router, raw } from 'express';
import type { Deps } from '../deps';
import { deleteWhole } from './delete';
import { documentFile } from './document';
import { dropFile } from './files';
import { moveFolder } from './folder';
import { listPipelines, onePipeline } from './list';
import { makeDemo, makePipeline } from './make';
import { saveVersion } from './save';
import { listVersions, oneVersion } from './versions';

/** The pipelines, their documents and versions. */
export function pipelinesRouter(deps: Deps): Router {
  const router = Router();
  router.get('/', listPipelines(deps));
  router.post('/', makePipeline(deps));
  router.post('/demo', makeDemo(deps));
  router.get('/:id', onePipeline(deps));
  router.put('/:id', saveVersion(deps));
  router.get('/:id/document', documentFile(deps));
  router.put('/:id/folder', moveFolder(deps));
  router.get('/:id/versions', listVersions(deps));
  router.get('/:id/versions/:version', oneVersion(deps));
  router.delete('/:id', deleteWhole(deps));
  router.post('/:id/files', raw({ type: () => true, limit: `${deps.config.uploadLimit}mb` }), dropFile(deps));
  return router;
}
