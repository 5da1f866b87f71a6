import type { Request } from 'express';
import { asPublished, MadeByAnother, NotExplained, type PublishedLook } from '../../runs/as-published';
import { publicationOf, type Publication } from '../../store/dataset';
import type { StoredPipeline } from '../../store/pipelines';
import type { Deps } from '../deps';
import type { Downloads } from '../downloads';
import { Fault } from '../fault';
import { pipelineOf } from '../pipelines/pipeline-of';
import { fileOf } from '../reports/asked-reports';

export const noDataset = (pipeline: StoredPipeline) =>
  new Fault('not found', `“${pipeline.document.name}” has no published dataset yet. Run a refresh first.`);

/** The published datasets, as the handlers below ask for them. */
export class Published {
  constructor(
    readonly deps: Deps,
    readonly downloads: Downloads,
  ) {}

  pipelineIn = (params: Request['params']): Promise<StoredPipeline> =>
    pipelineOf(this.deps, (params as { id: string }).id);

  /** What is asked of the published rows in several pieces: they stay until all have come. */
  async reading<Answer>(
    pipeline: StoredPipeline,
    work: (publication: Publication) => Promise<Answer>,
  ): Promise<Answer> {
    const publication = await publicationOf(this.deps.store, pipeline.id);
    if (!publication) throw noDataset(pipeline);
    let answer: Answer;
    await this.deps.runs.reading(publication.id, async () => {
      answer = await work(publication);
    });
    return answer!;
  }

  /** The look at a report with what it was published with. */
  async lookAt(pipeline: StoredPipeline, report: number): Promise<PublishedLook> {
    const { store, cacheFolder } = this.deps;
    const look = await asPublished(
      { store, cacheFolder, fileOf: (path) => fileOf(this.deps, pipeline, path) },
      pipeline,
      report,
    ).catch((error: Error) => {
      throw error instanceof NotExplained || error instanceof MadeByAnother
        ? new Fault('conflict', error.message)
        : error;
    });
    if (!look)
      throw new Fault('not found', `There is no report ${report} in the dataset of “${pipeline.document.name}”.`);
    return look;
  }
}
