import type { RequestHandler } from 'express';
import { shows, summaryAsked } from '../../../core/dataset/summary';
import { summaryGroups } from '../../store/summary';
import { checked } from '../fault';
import type { Published } from './published';
import { selecting, selectionIn } from './selection';
import * as v from 'valibot';

/** The dataset summed up by some of its columns. */
export function summary(datasets: Published): RequestHandler {
  const { store } = datasets.deps;
  return async (request, response) => {
    const asked = checked(summaryAsked, request.body, 'The summary');
    const pipeline = await datasets.pipelineIn(request.params);
    const groups = await selecting(
      datasets.reading(pipeline, async (publication) =>
        summaryGroups(store, publication, asked, selectionIn(publication, { where: asked.where, order: '' }).where),
      ),
    );
    response.json(groups);
  };
}

/** The same as a workbook. */
export function summaryWorkbook(datasets: Published): RequestHandler {
  const { store } = datasets.deps;
  return async (request, response) => {
    const { show, ...asked } = checked(
      v.object({ ...summaryAsked.entries, show: v.optional(v.picklist(shows), 'values') }),
      request.body,
      'The summary',
    );
    const pipeline = await datasets.pipelineIn(request.params);
    const bytes = await selecting(
      datasets.reading(pipeline, async (publication) =>
        (await import('../../export/summary-xlsx')).summaryWorkbook(
          pipeline.document.name,
          publication,
          asked,
          show,
          await summaryGroups(
            store,
            publication,
            asked,
            selectionIn(publication, { where: asked.where, order: '' }).where,
          ),
        ),
      ),
    );
    response.attachment(`${pipeline.viewName}_summary.xlsx`).send(Buffer.from(bytes));
  };
}
