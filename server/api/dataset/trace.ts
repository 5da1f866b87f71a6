import type { RequestHandler } from 'express';
import type { DatasetTrace } from '../../contract/answers';
import { datasetTraceQuery } from '../../contract/contract';
import { publishedRow } from '../../runs/as-published';
import { buildWords, thisBuild } from '../../setup/build';
import { publicationOf } from '../../store/dataset';
import { Fault, checked, readable } from '../fault';
import { whileOpen } from '../looks';
import { noDataset, type Published } from './published';

/** From a row (counted from 0) and heading of the published dataset to the words on paper, by the document that published it. */
export function traceCell(datasets: Published): RequestHandler {
  const { store, pool } = datasets.deps;
  return async (request, response) => {
    const { row: at = 0, column } = checked(datasetTraceQuery, request.query, 'The cell');
    const pipeline = await datasets.pipelineIn(request.params);
    const found = await publishedRow(store, pipeline.id, at);
    if (!found) {
      const publication = await publicationOf(store, pipeline.id);
      throw publication
        ? new Fault('not found', `The dataset has ${publication.rows} rows; there is no row ${at + 1}.`)
        : noDataset(pipeline);
    }
    const { publication, row, named } = found;
    if (!publication.columns.some((each) => each.heading === column))
      throw new Fault('not found', `The dataset has no column “${column}”.`);
    const { version, steps: _, ...look } = await datasets.lookAt(pipeline, row.report);
    const traced = readable(
      await pool.look('trace', { ...look, of: 'sheet', row: named, column }, { signal: whileOpen(response) }),
    );
    response.json({
      report: row.report,
      file: look.source.path,
      version,
      build: buildWords(thisBuild),
      ...traced,
    } satisfies DatasetTrace);
  };
}
