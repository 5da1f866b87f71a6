import type { RequestHandler } from 'express';
import { nothingTold, type CarriedTold } from '../../../core/pipeline/told';
import type { ToldOfWhole } from '../../../core/runs/run';
import type { PublishedAnswer } from '../../contract/answers';
import { publicationOf } from '../../store/dataset';
import { keptTotals, publishedParts } from '../../store/published';
import { noDataset, type Published } from './published';

/** What the published rows were made of: versions, files, what was held and what needs a look, and the printed totals. */
export function madeOf(datasets: Published): RequestHandler {
  const { store } = datasets.deps;
  return async (request, response) => {
    const pipeline = await datasets.pipelineIn(request.params);
    const publication = await publicationOf(store, pipeline.id);
    if (!publication) throw noDataset(pipeline);
    const parts = await publishedParts(store, pipeline.id);
    const whole = parts.find((part) => part.report === null);
    const told = whole && (JSON.parse(whole.told) as ToldOfWhole);
    const answer: PublishedAnswer = {
      version: publication.version ?? 0,
      whole: told?.whole ?? null,
      totals: await keptTotals(store, pipeline.id),
      reports: parts.flatMap((part) =>
        part.inputs.map((input) => {
          const own =
            part.report === null
              ? (told?.reports[String(input.report)] ?? { ...nothingTold, rows: 0, held: 0, misfits: 0 })
              : { ...(JSON.parse(part.told) as CarriedTold), rows: part.rows, held: part.held, misfits: part.misfits };
          return { ...own, ...input, stale: part.stale, version: part.version ?? 0 };
        }),
      ),
    };
    response.json(answer);
  };
}
