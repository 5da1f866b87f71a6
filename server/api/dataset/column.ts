import type { RequestHandler } from 'express';
import type { ColumnCard } from '../../../core/dataset/column-card';
import { columnCardQuery } from '../../contract/contract';
import { columnCard } from '../../store/column-card';
import { Fault, checked } from '../fault';
import type { Published } from './published';

/** What one column holds, at a glance. */
export function column(datasets: Published): RequestHandler {
  const { store } = datasets.deps;
  return async (request, response) => {
    const { column: heading, values } = checked(columnCardQuery, request.query, 'The column');
    const pipeline = await datasets.pipelineIn(request.params);
    const card = await datasets.reading(pipeline, async (publication): Promise<ColumnCard> => {
      const column = publication.columns.find((each) => each.heading === heading);
      if (!column) throw new Fault('not found', `The dataset has no column “${heading}”.`);
      return columnCard(store, publication, column, values);
    });
    response.json(card);
  };
}
