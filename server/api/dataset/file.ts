import type { RequestHandler } from 'express';
import { formatFacts, formats } from '../../../core/dataset/file-options';
import { sendDataset } from '../dataset-files';
import { Fault } from '../fault';
import type { Published } from './published';

/** The dataset as a file, for whoever works on the pipeline; other programs have it under its name. */
export function datasetFile(datasets: Published): RequestHandler<{ extension: string }> {
  return async (request, response) => {
    const { extension } = request.params;
    const format = formats.find((each) => formatFacts[each].extension === extension);
    if (!format) throw new Fault('not found', `A dataset is had as ${formats.join(', ')}, not as “${extension}”.`);
    await sendDataset(
      datasets.deps,
      await datasets.pipelineIn(request.params),
      format,
      request,
      response,
      datasets.downloads,
    );
  };
}
