import type { RequestHandler } from 'express';
import type { DatasetAnswer } from '../../contract/answers';
import { isId } from '../pipelines/pipeline-of';
import { windowQuery } from '../../contract/contract';
import { checked } from '../fault';
import { noDataset, type Published } from './published';

/** A window of the published rows. */
export function datasetWindow(datasets: Published): RequestHandler {
  return async (request, response) => {
    const { start, count } = checked(windowQuery, request.query, 'The window');
    // The common case is asked for first: pages are turned faster than anything else is done.
    const { id: asked } = request.params as { id: string };
    const found = isId(asked) ? await datasets.deps.windows.window(Number(asked), start, count) : undefined;
    if (!found) throw noDataset(await datasets.pipelineIn(request.params));
    const { id, publishedAt, version, rows, misfits, columns } = found.publication;
    response.json({
      publication: id,
      publishedAt,
      version: version ?? 0,
      rows,
      misfits,
      columns,
      start,
      window: found.rows,
    } satisfies DatasetAnswer);
  };
}
