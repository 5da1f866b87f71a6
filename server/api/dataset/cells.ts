import type { RequestHandler } from 'express';
import { isEverything } from '../../../core/dataset/selection';
import { soughtFrom } from '../../../core/sheet/find-cell';
import { publishedFindBody, publishedMeasureBody } from '../../contract/contract';
import { publishedFind, publishedMeasure } from '../../store/published-cells';
import { checked } from '../fault';
import type { Published } from './published';
import { selecting, selectionIn } from './selection';

/** What some published cells hold together, and where a text stands in them. */
export function measureCells(datasets: Published): RequestHandler {
  const { store, selections } = datasets.deps;
  return async (request, response) => {
    const { ranges, ...asked } = checked(publishedMeasureBody, request.body, 'The cells');
    const pipeline = await datasets.pipelineIn(request.params);
    response.json(
      await selecting(
        datasets.reading(pipeline, async (publication) => {
          const selection = selectionIn(publication, asked);
          return isEverything(selection)
            ? publishedMeasure(store, publication, ranges)
            : selections.measure(publication, selection, ranges);
        }),
      ),
    );
  };
}

/** Where a text stands in the published cells. */
export function findCell(datasets: Published): RequestHandler {
  const { store, selections } = datasets.deps;
  return async (request, response) => {
    const { text, back, where, order, ...from } = checked(publishedFindBody, request.body, 'The search');
    const pipeline = await datasets.pipelineIn(request.params);
    response.json(
      await selecting(
        datasets.reading(pipeline, async (publication) => {
          const selection = selectionIn(publication, { where, order });
          return isEverything(selection)
            ? publishedFind(store, publication, soughtFrom(text), from, back)
            : selections.find(publication, selection, soughtFrom(text), from, back);
        }),
      ),
    );
  };
}
