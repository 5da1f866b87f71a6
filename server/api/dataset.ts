import { Router } from 'express';
import { once } from 'node:events';
import { datasetCsv, publicationOf, publishedWindow } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import { traceQuery, windowQuery, type DatasetAnswer } from './contract';
import type { Deps } from './deps';
import { checked, Fault } from './fault';
import { pipelineOf } from './pipelines';
import { readable, reportTask } from './reports';

export function datasetRouter(deps: Deps): Router {
  const { store, pool, runs } = deps;
  const router = Router({ mergeParams: true });
  const none = (pipeline: StoredPipeline) => new Fault('not found', `“${pipeline.document.name}” has no published dataset yet. Run a refresh first.`);
  const windowed = async (params: unknown, start: number, count: number) => {
    const pipeline = await pipelineOf(deps, (params as { id: string }).id);
    const found = await publishedWindow(store, pipeline.id, start, count);
    if (!found) throw none(pipeline);
    return { pipeline, ...found };
  };

  router.get('/dataset', async (request, response) => {
    const { start, count } = checked(windowQuery, request.query, 'The window');
    const { publication, rows } = await windowed(request.params, start, count);
    const answer: DatasetAnswer = {
      publication: publication.id,
      publishedAt: publication.publishedAt,
      rows: publication.rows,
      misfits: publication.misfits,
      columns: publication.columns,
      start,
      window: rows,
    };
    response.json(answer);
  });

  /** The stable address for other programs. `X-Misfits` tells how many error cells are blank in it. */
  router.get('/dataset.csv', async (request, response) => {
    const pipeline = await pipelineOf(deps, (request.params as { id: string }).id);
    const publication = await publicationOf(store, pipeline.id);
    if (!publication) throw none(pipeline);
    const etag = `"${pipeline.id}-${publication.id}"`;
    response.setHeader('ETag', etag).setHeader('Cache-Control', 'no-cache').setHeader('X-Misfits', String(publication.misfits)).setHeader('X-Rows', String(publication.rows));
    if (request.headers['if-none-match']?.split(/\s*,\s*/).includes(etag)) {
      response.status(304).end();
      return;
    }
    response.type('text/csv; charset=utf-8').attachment(`${pipeline.viewName}.csv`);
    if (request.method === 'HEAD') {
      response.end();
      return;
    }
    await runs.reading(publication.id, async () => {
      for await (const piece of datasetCsv(store, publication)) {
        if (response.destroyed) return;
        if (!response.write(piece)) await Promise.race([once(response, 'drain'), once(response, 'close')]);
      }
    });
    response.end();
  });

  /** From a row (counted from 0) and heading of the published dataset to the words on paper. */
  router.get('/dataset/trace', async (request, response) => {
    const { row, column } = checked(traceQuery, request.query, 'The cell');
    const {
      pipeline,
      publication,
      rows: [found],
    } = await windowed(request.params, row, 1);
    if (!found) throw new Fault('not found', `The dataset has ${publication.rows} rows; there is no row ${row + 1}.`);
    if (!publication.columns.some((each) => each.heading === column)) throw new Fault('not found', `The dataset has no column “${column}”.`);
    const source = await reportTask(deps, pipeline, String(found.report));
    const traced = readable(await pool.run('trace', { document: JSON.stringify(pipeline.document), source, ordinal: found.reportOrdinal, column }));
    response.json({ report: found.report, file: source.path, ...traced });
  });
  return router;
}
