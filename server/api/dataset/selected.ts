import type { RequestHandler } from 'express';
import type { SelectedAnswer } from '../../contract/answers';
import { selectionQuery } from '../../contract/contract';
import { rowsAt } from '../../store/dataset';
import { checked } from '../fault';
import type { Published } from './published';
import { selecting, selectionIn } from './selection';

/** Rows of the dataset that meet conditions, in an order, by windows. */
export function selectedRows(datasets: Published): RequestHandler {
  const { store, selections } = datasets.deps;
  return async (request, response) => {
    const { start, count, ...asked } = checked(selectionQuery, request.query, 'The rows');
    const pipeline = await datasets.pipelineIn(request.params);
    const answer = await selecting(
      datasets.reading(pipeline, async (publication): Promise<SelectedAnswer> => {
        const places = await selections.placesOf(publication, selectionIn(publication, asked));
        const window = await store.transaction((session) =>
          rowsAt(session, publication, places.subarray(start, start + count)),
        );
        return { publication: publication.id, rows: places.length, start, window };
      }),
    );
    response.json(answer);
  };
}
